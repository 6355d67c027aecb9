import { EventEmitter } from 'node:events';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { WebSocket } from 'ws';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { Hub } from './hub.ts';
import { machineTime } from '../scheduler.ts';
import { keepPages } from './kept-pages.ts';
import { openPage, placeOf, readAs, readFault, SILENT_AFTER, type Following } from './open-pages.ts';

const FAULT = { item: 'bar', layer: 'Clock', text: 'odd' };

describe('a page that is open', () => {
  it.each([
    ['::ffff:192.168.1.4', '192.168.1.4'],
    ['127.0.0.1', 'this machine'],
    ['::ffff:127.0.0.1', 'this machine'],
    ['::1', 'this machine'],
    ['fe80::1', 'fe80::1'],
    [undefined, 'unknown'],
  ])('at %s is at %s', (address, place) => expect(placeOf(address)).toBe(place));

  it.each([
    ['key', 'key'],
    ['00b140', '00b140'],
    [null, 'page'],
    ['constructor', 'page'],
    ['<b>', 'page'],
    ['00b1400', 'page'],
  ])('that says it is %s is taken for %s', (said, as) => expect(readAs(said)).toBe(as));

  it.each([
    [FAULT, { ...FAULT, at: 7 }],
    [
      { layer: 'l', text: 'x'.repeat(999), more: 1 },
      { item: '', layer: 'l', text: 'x'.repeat(200), at: 7 },
    ],
    [{ item: 'i', layer: '' }, null],
    [{ layer: {} }, null],
    ['odd', null],
    [null, null],
  ])('that says it cannot draw %j', (said, is) => expect(readFault(said, 7)).toEqual(is));

  const page: Following = {
    ...{ id: 1, joiner: { from: 'x', as: 'page' }, since: 0 },
    ...{ asked: 1000, rtt: 9, behind: false, fault: null },
  };
  it.each<[Partial<Following>, number, object]>([
    [{}, 1500, { state: 'open', late: 5 }],
    [{ rtt: null }, 1500, { late: null }],
    [{ rtt: 131 }, 1500, { late: 65 }],
    [{ rtt: 1234 }, 1500, { late: 600 }],
    [{ behind: true }, 1500, { state: 'behind' }],
    [{ behind: true }, 1001 + SILENT_AFTER, { state: 'silent' }],
    [{ fault: { ...FAULT, at: 1000 } }, 1500, { state: 'open', fault: FAULT }],
  ])('%o at %d', (part, now, is) => expect(openPage('o', { ...page, ...part }, now)).toMatchObject(is));

  it('names a layer that could not be drawn no more once it was drawn for a while', () =>
    expect(openPage('o', { ...page, fault: { ...FAULT, at: 1000 } }, 31_000)).not.toHaveProperty('fault'));
});

describe('pages that were open before a restart', () => {
  const folder = mkdtempSync(join(tmpdir(), 'foothill-pages-'));
  const file = join(folder, 'open-pages.json');
  let ends: (() => void)[] = [];
  afterEach(() => {
    for (const end of ends.reverse()) end();
    ends = [];
    vi.useRealTimers();
  });
  /** A server of the output `a`, with pages of it that come from these places. */
  const serve = (...places: string[]) => {
    const hub = new Hub();
    hub.open('air:a', () => ({}));
    const end = keepPages(hub, file);
    for (const from of places) {
      const socket = {
        bufferedAmount: 0,
        send: () => {},
        on: () => {},
        close: () => {},
        terminate: () => {},
      };
      hub.join('air:a', socket as unknown as WebSocket, { from, as: 'page' });
    }
    ends.push(() => hub.close(), end);
    return { gone: (later: number) => hub.pages(machineTime.now() + later).gone, end };
  };

  it('are missed once one that was there is not back after a while; what is back is not', () => {
    serve('booth', 'east', 'east').end();
    // Killed once more before anybody could be back: they are waited for all the same.
    serve().end();
    const again = serve('east');
    expect(again.gone(9000)).toEqual([]);
    expect(again.gone(11_000)).toMatchObject([
      { output: 'a', from: 'booth', state: 'gone' },
      { output: 'a', from: 'east', state: 'gone' },
    ]);
    // Still missed after one more restart, and no more once it is named long enough.
    again.end();
    expect(serve('east').gone(11_000)).toHaveLength(2);
    expect(serve().gone(16 * 60_000)).toEqual([]);
  });

  it.each([
    [
      'of another night',
      () =>
        JSON.stringify({
          at: machineTime.now() - 16 * 60_000,
          pages: [{ output: 'a', as: 'page', from: 'x' }],
        }),
    ],
    [
      'of no output there is',
      () => JSON.stringify({ at: machineTime.now(), pages: [{ output: 'b', as: 'page', from: 'x' }] }),
    ],
    ['broken off', () => '{"at":1,"pag'],
    ['nothing like it', () => '{"at":"1","pages":[{"output":7}]}'],
  ])('are not, where the file is %s', (_, text) => {
    writeFileSync(file, text());
    expect(serve().gone(11_000)).toEqual([]);
  });

  it('are written while it runs, and a folder that is not there stops nothing', () => {
    vi.useFakeTimers({ toFake: ['setInterval'] });
    serve('booth');
    vi.advanceTimersByTime(6000);
    expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({ pages: [{ output: 'a', from: 'booth' }] });
    ends.push(keepPages(new Hub(), join(folder, 'none', 'x.json')));
    vi.advanceTimersByTime(6000);
  });
});

describe('the hub', () => {
  const hub = new Hub();
  afterEach(() => hub.close());

  it('knows the pages of outputs, not those that look on, and believes no odd word of theirs', () => {
    hub.open('air:a', () => ({}));
    hub.open('desk', () => ({}));
    const join = (stream: string, as: string) => {
      const socket = Object.assign(new EventEmitter(), {
        ...{ bufferedAmount: 0, send: () => {}, close: () => {}, terminate: () => {} },
      });
      hub.join(stream, socket as unknown as WebSocket, { from: 'this machine', as });
      return socket;
    };
    const key = join('air:a', 'key');
    join('air:a', 'desk');
    join('desk', 'page');
    const now = machineTime.now();
    expect(hub.openPages(now)).toMatchObject([{ output: 'a', as: 'key', late: null, state: 'open' }]);
    for (const rtt of [-1, '4', null, 1e9, NaN])
      key.emit('message', JSON.stringify({ t: 'ping', at: 1, rtt }));
    expect(hub.openPages(now)[0]!.late).toBeNull();
    key.emit('message', JSON.stringify({ t: 'ping', at: 1, rtt: 8 }));
    expect(hub.openPages(now)[0]!.late).toBe(4);
    expect(hub.openPages(machineTime.now() + SILENT_AFTER + 1)[0]!.state).toBe('silent');
    key.emit('close');
    expect(hub.openPages(now)).toEqual([]);
  });
});
