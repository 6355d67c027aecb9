import { stoppedClock } from '../../src/core/clock/clock.ts';
import type { DeskOp, DeskSnapshot } from '../../src/core/wire/wire.ts';

/** A socket of which the test is the other end. */
export class FakeSocket {
  static OPEN = 1;
  static last: FakeSocket;
  /** What answers the actions that are asked for; null: nobody does. */
  static act: ((action: { id: string }) => object) | null = null;
  readyState = 1;
  sent: { t: string }[] = [];
  onopen?: () => void;
  onmessage?: (event: { data: string }) => void;
  onclose?: () => void;
  constructor(readonly url: string) {
    FakeSocket.last = this;
  }
  send(text: string) {
    const message = JSON.parse(text) as { t: string; action: { id: string } };
    this.sent.push(message);
    const outcome = message.t === 'act' && FakeSocket.act?.(message.action);
    if (outcome) queueMicrotask(() => this.say({ t: 'acted', id: message.action.id, outcome }));
  }
  close() {}
  say(message: object) {
    this.onmessage?.({ data: JSON.stringify(message) });
  }
}

export const score = { key: 'home.score', value: 4, quality: 'ok', origin: 'c', at: 1, pin: null };
export const media = { path: 'marks/owls.svg', type: 'image/svg+xml', hash: 'a'.repeat(64) };
/** A small state of a running Foothill. */
export const snapshot = {
  defs: [{ key: 'home.score', label: 'Home score', kind: 'integer', group: 'home', min: 0, max: 99 }],
  fields: [score, { ...score, key: 'clock.game', value: stoppedClock(332_000, 'down', 0) }],
  tables: [
    {
      key: 't',
      name: 'T',
      columns: ['name'],
      rows: [
        ['a', { name: 'Orrell' }],
        ['b', { name: 'Keel' }],
      ],
      origin: 's',
      at: 1,
      quality: 'ok',
    },
  ],
  media: [media],
  lanes: [],
  quiet: null,
  pages: [],
  gone: [],
  log: [],
  bundles: [{ source: { key: 'known', name: 'Known' } }],
  playing: 'opening',
  documents: {
    game: [{ key: 'opening' }],
    profile: [],
    template: [],
    output: [],
    item: [{ key: 'i', name: 'Card', inputs: { line: 'old' } }],
  },
  derived: [{ own: true, doc: { key: 'lead', name: 'Lead' } }],
  tapes: [{ key: 'tape', name: 'First' }],
  revisions: { 'game/opening': 1 },
  undos: [],
} as unknown as DeskSnapshot;

/** Says news to the desk that connected last. */
export const tell = (seq: number, ...ops: DeskOp[]) => FakeSocket.last.say({ t: 'delta', seq, ops });
