import { XMLParser } from 'fast-xml-parser';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import type { WebSocket } from 'ws';
import profileDoc from '../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import { Board } from '../core/board/board.ts';
import { followClock } from '../core/clock/clock.ts';
import { parseProfile } from '../core/sport/profile.ts';
import { readConfig } from './config.ts';
import { addressAsked, readersOf, refuseRequest } from './http/guard.ts';
import { ACTIONS, readAction } from '../core/actions/actions.ts';
import { openApi } from './http/openapi.ts';
import { readoutReply } from './live/conditional.ts';
import { asResponse } from './http/reply.ts';
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
    [{ id: 'short', kind: 'take', item: 'a' }, 'id: must be 8 to 64'],
    [{ id: 'abcdefgh ', kind: 'take', item: 'a' }, 'id: must be 8 to 64'],
    [{ id, kind: 'take', item: 'a', constructor: null }, 'constructor: is not known here'],
    [
      JSON.parse('{"id":"abcdefgh","kind":"take","item":"a","__proto__":null}'),
      '__proto__: is not known here',
    ],
    [{ id, kind: 'take' }, 'item: is missing'],
    [{ id, kind: 'take', item: 'a', also: 1 }, 'also: is not known here'],
    [{ id, kind: 'edit', item: 'a', inputs: [{}] }, 'inputs: must be an object'],
    [{ id, kind: 'edit', item: 'a', inputs: { x: {} } }, 'inputs: must be an object of texts'],
    [{ id, kind: 'pin', field: 'a', text: 'x'.repeat(501) }, 'text: must be a text of at most 500'],
  ])('refuses %o', (body, why) => expect(readAction(body)).toContain(why));
});

describe('guard', () => {
  const here = { host: '127.0.0.1:4310' };
  const there = { host: '192.168.7.9:4310' };
  const ask = (
    headers: Record<string, string>,
    { url = '/live', method = 'GET', from = '127.0.0.1', host = '127.0.0.1', socket = false } = {},
  ) =>
    refuseRequest(
      { headers, method, socket: { remoteAddress: from } as never },
      addressAsked(url),
      host,
      socket,
    )?.status ?? 0;
  const POST = { method: 'POST', url: '/api/actions' };
  const REMOTE = { host: '192.168.7.9', from: '192.168.7.20' };
  it.each<[string, Record<string, string>, Parameters<typeof ask>[1], number]>([
    ['a page of ours acts', here, POST, 0],
    ['by its name', { host: 'localhost:4310', origin: 'http://localhost:4310' }, POST, 0],
    ['by IPv6', { host: '[::1]:4310', origin: 'http://[::1]:4310' }, POST, 0],
    [
      'by the address that it listens on',
      { ...there, origin: 'http://192.168.7.9:4310' },
      { ...POST, host: '192.168.7.9' },
      0,
    ],
    ['by another address', there, POST, 421],
    ['a name that begins like loopback acts', { host: '127.evil.com:4310' }, POST, 421],
    ['a name that begins like loopback reads', { host: '127.evil.com:4310' }, {}, 421],
    [
      'a name that begins like loopback follows',
      { host: '127.evil.com' },
      { url: '/socket?stream=desk', socket: true },
      421,
    ],
    ['no name', {}, {}, 421],
    ['another site acts', { ...here, origin: 'http://evil.example' }, POST, 403],
    ['a page of the simulator acts', { ...here, origin: 'http://127.0.0.1:4321' }, POST, 403],
    ['a page of nowhere acts', { ...here, origin: 'null' }, POST, 403],
    ['another site acts without saying so', { ...here, 'sec-fetch-site': 'cross-site' }, POST, 403],
    [
      'another site follows',
      { ...here, origin: 'http://evil.example' },
      { url: '/socket?stream=desk', socket: true },
      403,
    ],
    ['an address that is none', here, { url: '//' }, 400],
    ...['TRACE', 'PROPFIND', 'PUT', 'odd'].map((method): [string, Record<string, string>, object, number] => [
      `it is asked by ${method}`,
      here,
      { method },
      405,
    ]),
    ['pictures are asked of the renderer', here, { url: '/_image?href=http://elsewhere.example/a.png' }, 404],
    ['an address that is none, for a socket', here, { url: 'http://[', socket: true }, 400],
    ['another machine acts', there, { ...POST, ...REMOTE }, 403],
    ['another machine opens an air page', there, { ...REMOTE, url: '/air/broadcast?bg=000000' }, 0],
    [
      'another machine follows it',
      there,
      { ...REMOTE, url: '/socket?stream=air:broadcast', socket: true },
      0,
    ],
    ['another machine reads the board', there, { ...REMOTE, url: '/state/fields.json' }, 0],
    ['another machine opens a desk', there, { ...REMOTE, url: '/live' }, 403],
    ['another machine opens a desk by a way round', there, { ...REMOTE, url: '/air/%2e%2e/live' }, 403],
    [
      'another machine follows the desks',
      there,
      { ...REMOTE, url: '/socket?stream=desk', socket: true },
      403,
    ],
    [
      'another machine follows a source',
      there,
      { ...REMOTE, url: '/socket?stream=bytes:x', socket: true },
      403,
    ],
    ['another machine takes a tape', there, { ...REMOTE, url: '/tapes/x.jsonl.gz' }, 403],
    ['loopback in an IPv6 coat', here, { ...POST, from: '::ffff:127.0.0.1' }, 0],
  ])('%s', (_, headers, how, status) => expect(ask(headers, how)).toBe(status));
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
  it('lets pages of any site read, or of those that are named', () => {
    const readers = (text?: string) =>
      readConfig(text === undefined ? {} : { FOOTHILL_READERS: text }, '/x').readers;
    expect([readers(), readers('any'), readers('')]).toEqual([null, null, []]);
    expect(readers('http://a.example, HTTPS://b.example:8443/')).toEqual([
      'http://a.example',
      'https://b.example:8443',
    ]);
    for (const bad of ['overlay', 'ftp://a.example', 'http://a.example/page', 'any, http://a.example'])
      expect(() => readers(bad)).toThrow('FOOTHILL_READERS has');
  });
  it.each(['x', '0', '70000', '1.5'])('refuses the port %s with a sentence', (port) =>
    expect(() => readConfig({ FOOTHILL_PORT: port }, '/x')).toThrow('must be a port'),
  );
});

const OVERLAY = 'http://overlay.example:8080';

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
    const answer = asResponse(readoutReply(null, signed('csv'), 'Müller’s cup'));
    expect(decodeURIComponent(answer.headers.get('foothill-rehearsal')!)).toBe('Müller’s cup');
    expect(asResponse(readoutReply(null, signed('csv'))).headers.has('foothill-rehearsal')).toBe(false);
  });

  it('know no other format or field', () => {
    expect(allFields(board, 'yaml', 0)).toBeNull();
    expect(oneField(board, 'nope', 0)).toBeNull();
  });

  it.each<[string[] | null, string | undefined, string, number | Record<string, string> | null]>([
    [null, 'http://any.example', '/state/fields.json', { 'access-control-allow-origin': '*' }],
    [[OVERLAY], OVERLAY, '/state/tables/x.csv', { 'access-control-allow-origin': OVERLAY, vary: 'origin' }],
    [[OVERLAY], undefined, '/state/fields.json', { vary: 'origin' }],
    [[OVERLAY], 'http://localhost', '/state/fields.json', { vary: 'origin' }],
    [[OVERLAY], 'http://overlay.example', '/state/fields/a.txt', 403],
    [[], OVERLAY, '/state/fields.json', 403],
    [[], 'null', '/state/fields.json', 403],
    [[], OVERLAY, '/healthz', null],
  ])('may be read by pages of %j: asked by one of %s for %s', (readers, origin, path, answer) => {
    const headers = { host: 'localhost', ...(origin && { origin }) };
    const got = readersOf({ headers }, path, readers);
    expect(got && ('status' in got ? got.status : got.headers)).toEqual(answer);
  });

  it('answer 304 to who has it, 404 for what is not there', async () => {
    const readout = oneField(board, 'home.score', 0)!;
    const ask = (tag?: string) => asResponse(readoutReply(tag, readout));
    expect(await ask().text()).toBe('4');
    expect([ask(readout.etag).status, ask(`W/${readout.etag}`).status, ask('"x"').status]).toEqual([
      304, 304, 200,
    ]);
    expect(readoutReply(undefined, null).status).toBe(404);
  });
});

describe('Hub', () => {
  class FakeSocket {
    bufferedAmount = 0;
    sent: { t: string; seq: number }[] = [];
    packed: (boolean | undefined)[] = [];
    handlers: Record<string, (data: string) => void> = {};
    send(text: string, how?: { compress: boolean }) {
      this.sent.push(JSON.parse(text) as { t: string; seq: number });
      this.packed.push(how?.compress);
    }
    on(event: string, handler: (data: string) => void) {
      this.handlers[event] = handler;
    }
    close() {}
    ended = false;
    terminate() {
      this.ended = true;
    }
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

  it.each<[string, object[], number, boolean]>([
    ['a line that is not known yet', [], 0, true],
    ['a near page', [{ rtt: 1.2 }], 0, false],
    ['a page that is far', [{ rtt: 40 }], 0, true],
    ['a near page on a busy machine', [{ rtt: 1 }, { rtt: 30 }], 0, false],
    ['one that was near and is far now', [1, 30, 30, 30, 30].map((rtt) => ({ rtt })), 0, true],
    ['a near page for which something waits', [{ rtt: 1 }], 4000, true],
  ])('packs what it tells where that saves time: %s', (_, pings, waits, packed) => {
    const hub = new Hub();
    hub.open('s', () => ({}));
    const socket = new FakeSocket();
    join(hub, socket);
    for (const ping of pings) socket.handlers['message']!(JSON.stringify({ t: 'ping', at: 1, ...ping }));
    socket.bufferedAmount = waits;
    hub.publish('s', ['x']);
    expect(socket.packed.at(-1)).toBe(packed);
    hub.close();
  });

  it('does the actions of desks, and of no page of an output', async () => {
    const hub = new Hub();
    const asked: unknown[] = [];
    const outcome = { ok: true, text: 'Done', seq: 1 } as const;
    for (const name of ['desk', 'air:board']) {
      hub.open(name, () => ({}));
      const socket = new FakeSocket();
      hub.join(name, socket as unknown as WebSocket, undefined, (action) => {
        asked.push(action);
        return Promise.resolve(outcome);
      });
      socket.handlers['message']!('{"t":"act","action":{"id":"a"}}');
      socket.handlers['message']!('{"t":"act"}');
      await Promise.resolve();
      const acted = { t: 'acted', outcome };
      expect(socket.sent.slice(1)).toEqual(name === 'desk' ? [{ ...acted, id: 'a' }, acted] : []);
    }
    expect(asked).toEqual([{ id: 'a' }, undefined]);
    hub.close();
  });

  it('makes one snapshot for a client that asks and does not read, and lets go of one that asks too much', async () => {
    const hub = new Hub();
    let made = 0;
    hub.open('s', () => ++made);
    const socket = new FakeSocket();
    join(hub, socket);
    socket.bufferedAmount = 1000;
    for (let i = 0; i < 150; i++) socket.handlers['message']!('{"t":"snapshot"}');
    const snapshots = () => socket.sent.filter((message) => message.t === 'snapshot').length;
    expect([made, snapshots()]).toEqual([1, 1]);
    socket.bufferedAmount = 0;
    // Made anew only where the first one is no more of the same moment, which a test has no say in.
    await expect.poll(snapshots).toBe(2);
    expect(made).toBeLessThanOrEqual(2);
    for (let i = 0; i < 150; i++) socket.handlers['message']!('{"t":"ping"}');
    expect(socket.ended).toBe(true);
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

describe('openApi', () => {
  it('describes every action by its class, with what it holds and who may do it', () => {
    const doc = openApi() as {
      paths: Record<string, { post: { 'x-roles': Record<string, string>; requestBody: object } }>;
      components: { schemas: Record<string, { properties: Record<string, object>; required: string[] }> };
    };
    const { schemas } = doc.components;
    const { post } = doc.paths['/api/actions']!;
    expect(Object.keys(post['x-roles'])).toEqual(Object.keys(ACTIONS));
    expect(schemas['HandRequest']).toMatchObject({
      properties: {
        do: { enum: ['set', 'add', 'start', 'stop'] },
        text: { type: 'string', maxLength: 500 },
        id: { type: 'string' },
      },
      required: expect.arrayContaining(['id', 'kind', 'source', 'field', 'do']),
    });
    expect(schemas['HandRequest']!.required).not.toContain('text');
    expect(schemas['LinkRequest']!.properties['links']).toMatchObject({
      type: 'array',
      items: { $ref: '#/components/schemas/LinkChange' },
    });
    // Every reference leads somewhere, and no property is left without a word about it.
    for (const [, name] of JSON.stringify(doc).matchAll(/"#\/components\/schemas\/([^"]+)"/g))
      expect(schemas[name!]).toBeDefined();
    for (const [name, { properties }] of Object.entries(schemas))
      for (const [property, schema] of Object.entries(properties))
        expect(Object.keys(schema), `${name}.${property}`).not.toEqual([]);
  });
});
