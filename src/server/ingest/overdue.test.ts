import { pino } from 'pino';
import { afterEach, describe, expect, it } from 'vitest';
import { parseSource } from '../../core/source/source-doc.ts';
import { FakeTime } from '../../../tests/support/fake-time.ts';
import { ByteSource } from './byte-source.ts';
import { DocumentSource, type Fetched } from './document/document-source.ts';
import type { DocumentReader } from './document/reader.ts';
import { readBytes, type ReadJob } from './document/work.ts';
import type { openLine } from './transport.ts';

let closing: (() => unknown)[] = [];
afterEach(() => {
  for (const close of closing) close();
  closing = [];
});

function setUp(transport: object) {
  const time = new FakeTime();
  const doc = parseSource({
    ...{ schema: 1, key: 's', name: 'S', limits: { late: 1000, lost: 2000 } },
    transport,
  });
  if (!doc.ok) throw new Error(doc.problems.join());
  const listener = {
    read: () => {},
    received: () => {},
    now: time.now,
    scheduler: time,
    atOneTime: (work: () => void) => work(),
    log: pino({ level: 'silent' }),
  };
  return { time, doc: doc.value, listener };
}

describe('what waits on the outside is begun again', () => {
  it.each(['fetched', 'read'])('where a document is never %s', async (what) => {
    const { time, doc, listener } = setUp({ kind: 'http', url: 'http://127.0.0.1/x', every: 1000 });
    const never = new Promise<never>(() => {});
    let hangs = true;
    let asked = 0;
    const one: Fetched = { bytes: new TextEncoder().encode('{"a":1}'), type: '' };
    const fetch = () => (asked++, hangs && what === 'fetched' ? never : Promise.resolve(one));
    const read = (job: ReadJob) => (hangs && what === 'read' ? never : readBytes(job));
    const source = new DocumentSource(
      doc,
      null,
      { fetch, forget: () => {} },
      { read } as unknown as DocumentReader,
      listener,
    );
    closing.push(() => source.stop());
    source.start();
    await time.pass(60_000);
    expect(asked).toBe(1);
    hangs = false;
    await time.until(() => expect(asked).toBe(2));
    await time.until(() => expect(source.last).not.toBeNull());
    expect(source.state()).toMatchObject({
      connected: true,
      trouble: { text: 'The last look did not end; it is looked at again' },
    });
  });

  it('where a line neither stands nor fails; one that is to be called waits for as long as it takes', async () => {
    for (const [mode, opened] of [
      ['connect', 2],
      ['listen', 1],
    ] as const) {
      const { time, doc, listener } = setUp({ kind: 'tcp', host: '127.0.0.1', port: 4001, mode });
      let lines = 0;
      const open: typeof openLine = () => (lines++, { close: () => {} });
      const bundle = { schema: 1 as const, source: doc, map: null, document: null, patch: null };
      const source = new ByteSource(bundle, listener, open);
      closing.push(() => source.stop());
      source.start();
      await time.pass(20_000);
      expect(lines).toBe(opened);
      const text = mode === 'connect' ? 'No connection to 127.0.0.1:4001 within 15 s' : undefined;
      expect(source.state().trouble?.text).toBe(text);
    }
  });
});
