import type { Past } from '../../src/core/actions/past.ts';
import { nameOfPlace } from '../../src/core/actions/world.ts';
import type { BoardRow, Change, Edit } from '../../src/core/actions/change.ts';
import { laneKey, type Lane } from '../../src/core/show/show.ts';
import type { ActionRecord, Answered, Saved, Version } from '../../src/server/store/store.ts';
import { FakeStore } from './engine.ts';

interface Kept {
  kind: string;
  key: string;
  text: string;
  revision: number;
}

/** A store that keeps what is committed, as texts, so that an engine can be started on it anew. */
export class KeepingStore extends FakeStore {
  private readonly docs = new Map<string, Kept>();
  private readonly lanes = new Map<string, Lane>();
  private readonly pins = new Map<string, { field: string; value: never; at: number }>();
  private actions: { id: string; past: string | null; undone: boolean; record: ActionRecord }[] = [];

  put(kind: string, key: string, body: object): void {
    this.docs.set(nameOfPlace(kind, key), { kind, key, text: JSON.stringify(body), revision: 1 });
  }

  override documents(kind: string): Promise<unknown[]> {
    const own = [...this.docs.values()].filter((d) => d.kind === kind);
    return Promise.resolve(own.map((d) => JSON.parse(d.text) as unknown));
  }

  override revisions = () => {
    const found = new Map<string, number>();
    for (const { kind, key, revision } of [...this.versions, ...this.docs.values()]) {
      const place = nameOfPlace(kind, key);
      found.set(place, Math.max(revision, found.get(place) ?? 0));
    }
    return Promise.resolve(found);
  };

  override load(): Promise<Saved> {
    return Promise.resolve(
      structuredClone({
        lanes: [...this.lanes.values()],
        pins: [...this.pins.values()],
        board: [] as BoardRow[],
        log: [],
        ...this.remembered(),
        answered: this.actions.map(({ record: { id, asked, text } }) => ({ id, asked, text })),
        past: this.actions.flatMap(({ past, undone, record }): Past[] =>
          past === null
            ? []
            : [
                {
                  ...(JSON.parse(past) as Pick<Past, 'undo' | 'back'>),
                  id: record.id,
                  by: record.by,
                  text: record.text,
                  asked: { kind: record.kind, ...(record.body as object) },
                  undone,
                },
              ],
        ),
      }),
    );
  }

  override async commit(
    action: unknown,
    change: unknown,
    undo: unknown,
    versions: readonly Version[],
  ): Promise<'done' | Answered> {
    const answer = await super.commit(action, change, undo, versions);
    const record = structuredClone(action) as ActionRecord;
    for (const edit of (change as Change).edits) this.write(edit);
    const { follows, marks, gone } = record;
    this.actions = this.actions.filter((a) => a.id !== follows);
    for (const known of this.actions) {
      if (gone.includes(known.id)) known.past = null;
      if (known.id !== marks?.id) continue;
      known.undone = marks.undone;
      if (marks.past) known.past = JSON.stringify(marks.past);
    }
    this.actions.push({
      id: record.id,
      past: record.past && JSON.stringify(record.past),
      undone: false,
      record,
    });
    return answer;
  }

  private write(edit: Edit): void {
    const { kind, key } = edit;
    if (edit.kind === 'lane' && edit.is) this.lanes.set(laneKey(edit.is), edit.is);
    else if (edit.kind === 'pin') {
      if (edit.is) this.pins.set(key, { field: key, ...edit.is } as never);
      else this.pins.delete(key);
    } else if (edit.is)
      this.docs.set(nameOfPlace(kind, key), {
        kind,
        key,
        text: JSON.stringify(edit.is),
        revision: edit.revision ?? 1,
      });
    else this.docs.delete(nameOfPlace(kind, key));
  }
}
