import { XMLParser } from 'fast-xml-parser';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import type { WebSocket } from 'ws';
import profileDoc from '../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import { Board } from '../core/board/board.ts';
import { followClock } from '../core/clock/clock.ts';
import { parseProfile } from '../core/sport/profile.ts';
import { readConfig } from './config.ts';
import { refuseRemote, refuseRequest } from './http/guard.ts';
import { readAction } from './http/requests.ts';
import { respond } from './live/conditional.ts';
import { Hub } from './live/hub.ts';
import { allFields, oneField } from './live/readouts.ts';

describe('readAction', () => {
  const id = 'abcdefgh';
  it('takes well-formed actions', () => {
    expect(readAction({ id, kind: 'edit', item: 'a', inputs: { n: null, t: 'x' } })).toMatchObject({
      kind: 'edit',
    });
    expect(readAction({ id, kind: 'pin', field: 'home.score', text: '' })).toMatchObject({ kind: 'pin' });
  });
  it.each([
    [null, 'one of take'],
    ['take', 'one of take'],
    [{ id, kind: 'toString' }, 'one of take'],
    [{ id: 'short', kind: 'take', item: 'a' }, 'id must be'],
    [{ id, kind: 'take' }, 'item must be'],
    [{ id, kind: 'take', item: 'a', also: 1 }, 'also should not exist'],
    [{ id, kind: 'edit', item: 'a', inputs: [{}] }, 'inputs must be an object'],
    [{ id, kind: 'edit', item: 'a', inputs: { x: {} } }, 'must be a text'],
    [{ id, kind: 'pin', field: 'a', text: 'x'.repeat(501) }, 'text must be shorter'],
  ])('refuses %o', (body, why) => expect(readAction(body)).toContain(why));
});

describe('guard', () => {
  const ask = (headers: Record<string, string>) =>
    refuseRequest({ headers, socket: {} as never }, '127.0.0.1');
  it.each([
    [{ host: '127.0.0.1:4310' }, false],
    [{ host: 'localhost:4310', origin: 'http://localhost:4310' }, false],
    [{ host: '127.0.0.1:4310', origin: 'http://evil.example' }, true],
    [{ host: '127.0.0.1:4310', origin: 'http://127.0.0.1:4321' }, true],
    [{ host: '127.0.0.1:4310', origin: 'null' }, true],
    [{ host: '192.168.7.9:4310', origin: 'http://192.168.7.9:4310' }, false],
    [{ host: '[::1]:4310', origin: 'http://[::1]:4310' }, false],
    [{ host: '127.0.0.1:4310', 'sec-fetch-site': 'cross-site' }, true],
    [{ host: 'evil.example:4310', origin: 'http://evil.example:4310' }, true],
  ])('%o refused: %s', (headers, refused) =>
    expect(ask(headers as Record<string, string>) !== null).toBe(refused),
  );
  it('lets only this machine write', () => {
    expect(refuseRemote({ socket: { remoteAddress: '::ffff:127.0.0.1' } as never })).toBeNull();
    expect(refuseRemote({ socket: { remoteAddress: '10.0.0.7' } as never })).toContain('only on the machine');
  });
});

describe('readConfig', () => {
  it('has defaults and takes variables', () => {
    expect(readConfig({}, '/x')).toMatchObject({
      host: '127.0.0.1',
      port: 4310,
      data: '/x/.foothill',
      simPort: 4320,
    });
    expect(readConfig({ FOOTHILL_PORT: '5000', FOOTHILL_DATA: '/d' }, '/x')).toMatchObject({
      port: 5000,
      data: '/d',
    });
  });
  it.each(['x', '0', '70000', '1.5'])('refuses the port %s with a sentence', (port) =>
    expect(() => readConfig({ FOOTHILL_PORT: port }, '/x')).toThrow('must be a port'),
  );
});

describe('read-outs', () => {
  const profile = parseProfile(profileDoc);
  if (!profile.ok) throw new Error(profile.problems.join());
  const board = new Board(profile.value.fields);
  const clock = followClock(null, { ms: 34_500, step: 100 }, true, 'down', 0);
  const name = 'Fox & <"Hen">, Ltd';
  board.apply(
    [
      { key: 'home.name', value: name, origin: 'game' },
      { key: 'home.score', value: 3, origin: 'c' },
      { key: 'clock.game', value: clock, origin: 'c' },
    ],
    0,
  );
  board.apply([{ key: 'home.score', pin: 4 }], 1);
  const all = (format: string) => allFields(board, format, 300)!.body;

  it('say the same in JSON, XML and CSV, hard characters included', () => {
    const json = JSON.parse(all('json')) as {
      fields: { key: string; text: string; value: unknown; pinned: boolean }[];
    };
    const find = (key: string) => json.fields.find((f) => f.key === key);
    expect(find('home.score')).toMatchObject({ value: 4, text: '4', pinned: true });
    expect(find('clock.game')).toMatchObject({ value: 34_299, text: '34.2', running: true });
    const xml = new XMLParser({ ignoreAttributes: false, parseTagValue: false }).parse(all('xml')) as {
      fields: { field: { '@_key': string; '#text'?: string }[] };
    };
    expect(xml.fields.field.map((f) => [f['@_key'], f['#text'] ?? ''])).toEqual(
      json.fields.map((f) => [f.key, f.text]),
    );
    const csv = Papa.parse<Record<string, string>>(all('csv').trim(), { header: true }).data;
    expect(csv.map((r) => [r['key'], r['text']])).toEqual(json.fields.map((f) => [f.key, f.text]));
    expect(oneField(board, 'home.name', 0)?.body).toBe(name);
  });

  it('say in a rehearsal what they are, in their own form and in a header', () => {
    const signed = (format: string) => allFields(board, format, 300, 'Müller’s cup')!;
    expect(JSON.parse(signed('json').body)).toMatchObject({ rehearsal: 'Müller’s cup' });
    expect(signed('xml').body).toContain('rehearsal="Müller’s cup"');
    expect(all('json')).not.toContain('rehearsal');
    const answer = respond(new Request('http://x/'), signed('csv'), 'Müller’s cup');
    expect(decodeURIComponent(answer.headers.get('foothill-rehearsal')!)).toBe('Müller’s cup');
    expect(respond(new Request('http://x/'), signed('csv')).headers.has('foothill-rehearsal')).toBe(false);
  });

  it('know no other format or field', () => {
    expect(allFields(board, 'yaml', 0)).toBeNull();
    expect(oneField(board, 'nope', 0)).toBeNull();
  });

  it('answer 304 to who has it, 404 for what is not there, open to every origin', async () => {
    const readout = oneField(board, 'home.score', 0)!;
    const ask = (tag?: string) =>
      respond(new Request('http://x/', tag ? { headers: { 'if-none-match': tag } } : {}), readout);
    expect(await ask().text()).toBe('4');
    expect(ask().headers.get('access-control-allow-origin')).toBe('*');
    expect([ask(readout.etag).status, ask(`W/${readout.etag}`).status, ask('"x"').status]).toEqual([
      304, 304, 200,
    ]);
    expect(respond(new Request('http://x/'), null).status).toBe(404);
  });
});

describe('Hub', () => {
  class FakeSocket {
    bufferedAmount = 0;
    sent: { t: string; seq: number }[] = [];
    handlers: Record<string, (data: string) => void> = {};
    send(text: string) {
      this.sent.push(JSON.parse(text) as { t: string; seq: number });
    }
    on(event: string, handler: (data: string) => void) {
      this.handlers[event] = handler;
    }
    close() {}
  }
  const join = (hub: Hub, socket: FakeSocket) => hub.join('s', socket as unknown as WebSocket);

  it('gives a snapshot, then deltas without a gap; a slow client is skipped ahead, not queued for', async () => {
    const hub = new Hub();
    hub.open('s', () => ({}));
    const [fast, slow] = [new FakeSocket(), new FakeSocket()];
    join(hub, fast);
    join(hub, slow);
    slow.bufferedAmount = 1e7;
    for (let i = 0; i < 100; i++) hub.publish('s', [i]);
    hub.publish('s', []);
    expect(fast.sent.map((m) => m.seq)).toEqual([...Array(101).keys()]);
    expect(slow.sent).toHaveLength(1);
    slow.bufferedAmount = 0;
    await expect.poll(() => slow.sent.at(-1)).toMatchObject({ t: 'snapshot', seq: 100 });
    hub.publish('s', ['x']);
    expect(slow.sent.at(-1)).toMatchObject({ t: 'delta', seq: 101 });
    fast.handlers['message']!('{"t":"snapshot"}');
    expect(fast.sent.at(-1)).toMatchObject({ t: 'snapshot', seq: 101 });
    fast.handlers['message']!('not json');
    fast.handlers['message']!('null');
    hub.close();
  });

  it('waits for a large snapshot to go out before it calls a client slow', () => {
    const hub = new Hub();
    hub.open('s', () => 'x'.repeat(2_000_000));
    const socket = new FakeSocket();
    join(hub, socket);
    socket.bufferedAmount = 2_000_000;
    hub.publish('s', ['a']);
    socket.bufferedAmount = 3_000_000;
    hub.publish('s', ['b']);
    expect(socket.sent.map((m) => m.seq)).toEqual([0, 1]);
    hub.close();
  });
});
