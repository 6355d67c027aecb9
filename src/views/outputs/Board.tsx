import { useMemo, useState } from 'react';
import type { Draft } from 'mutative';
import type { Output, Zone } from '../../core/show/show.ts';
import { addedZone, grown, coverageOf, reordered } from '../../core/show/zones.ts';
import { Button } from '../../ui/Button.tsx';
import { arrowOf, useKeys } from '../../ui/keys.ts';
import { tip } from '../../ui/tip.ts';
import { later } from '../../ui/Later.tsx';
import { useDocumentSession } from '../shared/document-session.ts';
import { layoutsUsed } from '../shared/layouts-used.ts';
import { Saved } from '../shared/Saved.tsx';
import { UndoRedoButtons, useUndoKeys } from '../shared/UndoRedo.tsx';
import { VersionsButton } from '../shared/Versions.tsx';
import type { Seen } from '../shared/View.tsx';
import { CoverageLine } from './CoverageLine.tsx';
import { Side } from './Side.tsx';
import { ZoneTable } from './ZoneTable.tsx';
import css from './OutputsView.module.css';

const BoardPicture = later(() => import('./BoardPicture.tsx').then((m) => m.BoardPicture));

/** One output as it is worked at: its picture with the zones on it, the zones in numbers, and what it is beside. */
export function Board({
  desk,
  snapshot,
  saved,
  onDuplicate,
}: Seen & { saved: Output; onDuplicate: () => void }) {
  /** The items that are on air here, by zone. */
  const airing = new Map(
    snapshot.lanes.flatMap((l) => (l.output === saved.key && l.onAir ? [[l.zone, l.onAir.item]] : [])),
  );
  const onAir = saved.zones.filter((z) => airing.has(z.key)).map((z) => z.name);
  const work = useDocumentSession(desk, 'output', saved, onAir.length > 0);
  const { doc: output, change } = work;
  const [chosen, setChosen] = useState<string | null>(null);
  const zone = output.zones.find((z) => z.key === chosen) ?? null;
  const lie = useMemo(() => coverageOf(output), [output]);

  /** Changes a zone, as one step with what goes on at the same part of it. */
  const set = (key: string, part: Partial<Zone>, text: string, entry?: string) =>
    change(
      text,
      (draft) =>
        void Object.assign(
          draft.zones.find((z) => z.key === key)!,
          part,
        ),
      entry && `${key} ${entry}`,
    );
  const setZones = (text: string, zones: Zone[]) =>
    change(text, (draft: Draft<Output>) => void (draft.zones = zones));
  const called = (key: string) => output.zones.find((z) => z.key === key)?.name ?? '';
  const add = () => {
    const made = addedZone(output);
    setZones(`Added ${made.name}`, [...output.zones, made]);
    setChosen(made.key);
  };
  const remove = (key: string) =>
    output.zones.length > 1 &&
    setZones(
      `Deleted ${called(key)}`,
      output.zones.filter((z) => z.key !== key),
    );
  const nudge = (x: number, y: number) =>
    zone && set(zone.key, { x: zone.x + x, y: zone.y + y }, `Moved ${zone.name}`, 'nudge');

  useUndoKeys({ undo: work.goBack, redo: work.goForth });
  useKeys({
    'ctrl+s': () => work.save(),
    delete: () => zone && remove(zone.key),
    escape: () => setChosen(null),
  });

  return (
    <>
      <section className={css['board']} aria-label={output.name}>
        <header className={css['top']}>
          <h2>{output.name}</h2>
          <VersionsButton desk={desk} kind="output" documentKey={saved.key} now={saved} name={saved.name} />
          <Button onClick={onDuplicate} {...tip('Another output with the same zones, without their letters')}>
            Duplicate
          </Button>
          <span className={css['gap']} />
          <UndoRedoButtons undo={work.undo} redo={work.redo} onUndo={work.goBack} onRedo={work.goForth} />
        </header>
        <p className={css['saving']}>
          <Saved work={work} onAir={onAir} />
        </p>
        <div
          className={css['picture']}
          onKeyDown={(event) => {
            const go = arrowOf(event);
            if (!go || !zone) return;
            event.preventDefault();
            nudge(...go);
          }}
        >
          <BoardPicture
            output={output}
            saved={saved}
            lie={lie}
            layouts={() => layoutsUsed(snapshot)}
            chosen={chosen}
            onChoose={setChosen}
            onBox={(key, box, text) => set(key, box, `${text} ${called(key)}`)}
          />
        </div>
        <CoverageLine output={output} lie={lie} onChoose={setChosen} />
        <ZoneTable
          output={output}
          chosen={chosen}
          onAir={(key) => {
            const item = airing.get(key);
            return item === undefined
              ? null
              : (snapshot.documents.item.find((i) => i.key === item)?.name ?? 'an item');
          }}
          onChoose={setChosen}
          onSet={set}
          onEnd={work.end}
          onOrder={(key, to) =>
            setZones(`Moved ${called(key)} in the order`, reordered(output.zones, key, to))
          }
          onRemove={remove}
        />
        <p className={css['buttons']}>
          <Button onClick={add}>Add a zone</Button>
          <Button
            disabled={!zone}
            data-tip="As wide and as high as nothing else stands in its way"
            onClick={() => {
              const box = zone && grown(output, zone.key);
              if (box) set(zone.key, box, `Filled the space around ${zone.name}`);
            }}
          >
            Fill the space around it
          </Button>
        </p>
      </section>
      <Side
        desk={desk}
        snapshot={snapshot}
        work={work}
        saved={saved}
        airing={airing}
        zone={zone}
        onZones={setZones}
      />
    </>
  );
}
