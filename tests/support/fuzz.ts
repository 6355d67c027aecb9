import { writeFileSync, mkdirSync } from 'node:fs';
import { connect } from 'node:net';
import { dirname, join } from 'node:path';
import { WebSocket } from 'ws';
import { sleep, type World } from './world.ts';

/** Numbers from 0 to 1 that a seed gives again (mulberry32, public domain). */
export function randomOf(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const WORDS = [
  '__proto__', 'constructor', 'toString', '', ' ', '\0', '\uD800', '../..', '//', '%00', 'home.score',
  '9'.repeat(400), 'x'.repeat(5000), '1e999', '-0', 'null', '[]', '{}', '<a>', '"a".matches("(a+)+$")',
]; // prettier-ignore

const REQUESTS = [
  { id: 'abcdefgh', kind: 'take', item: 'bar' },
  { id: 'abcdefgh', kind: 'pin', field: 'home.score', text: '3' },
  { id: 'abcdefgh', kind: 'edit', item: 'captain', inputs: { name: 'A' } },
  { id: 'abcdefgh', kind: 'hand', source: 'pad', field: 'home.score', do: 'add', text: '1' },
  {
    id: 'abcdefgh',
    kind: 'put-item',
    item: 'captain',
    zones: [{ output: 'broadcast', zone: 'top' }],
    length: 2,
  },
  {
    id: 'abcdefgh',
    kind: 'put-items',
    items: [{ schema: 1, key: 'new', number: 99, name: 'N', template: 'lower-third', zones: [], inputs: {} }],
    groups: [{ key: 'g', name: 'G', items: ['new'] }],
    gone: ['blank'],
  },
  { id: 'abcdefgh', kind: 'recall-look', look: 'break' },
  { id: 'abcdefgh', kind: 'end-item', item: 'captain', takenAt: 1 },
  { id: 'abcdefgh', kind: 'queue', output: 'broadcast', zone: 'lower', items: ['captain'], was: [] },
  { id: 'abcdefgh', kind: 'take-next', output: 'broadcast', zone: 'lower', item: 'captain' },
  { id: 'abcdefgh', kind: 'back', output: 'broadcast', zone: 'lower' },
  { id: 'abcdefgh', kind: 'clear-all', output: 'broadcast' },
  {
    id: 'abcdefgh',
    kind: 'restore-air',
    lanes: [
      {
        output: 'broadcast',
        zone: 'lower',
        now: null,
        again: { item: 'captain', layout: 'broadcast', inputs: { name: 'A' }, takenAt: 1 },
      },
    ],
  },
  { id: 'abcdefgh', kind: 'swap-sides', scorer: 'not' },
  { id: 'abcdefgh', kind: 'choose-game', game: 'opening-night', board: 'keep' },
  { id: 'abcdefgh', kind: 'rehearse', do: 'jump', to: 5 },
  { id: 'abcdefgh', kind: 'undo', desk: 'desk-of-ode', view: 'live', who: 'Ode' },
  { id: 'abcdefgh', kind: 'redo', desk: 'desk-of-ode', view: 'live' },
  { id: 'abcdefgh', kind: 'restore-version', what: 'game', key: 'opening-night', revision: 1 },
  {
    id: 'abcdefgh',
    kind: 'link',
    links: [
      {
        source: 'controller',
        field: 'home.score',
        was: null,
        is: { reading: 'period', field: 'home.score' },
      },
    ],
  },
  { id: 'abcdefgh', kind: 'media', path: 'a/b.svg', entry: { path: 'a/b.svg', hash: 'a'.repeat(64) } },
  {
    id: 'abcdefgh',
    kind: 'put-document',
    what: 'derived',
    body: {
      schema: 1,
      key: 'z',
      derived: { what: 'field', key: 'z', name: 'Z', value: { formula: '1 + 1' } },
    },
  },
  {
    id: 'abcdefgh',
    kind: 'source',
    bundle: {
      schema: 1,
      source: {
        schema: 1,
        key: 'fuzz',
        name: 'Fuzz',
        enabled: false,
        transport: { kind: 'http', url: 'http://127.0.0.1:9/', header: { name: 'a', value: 'b' } },
        limits: { late: 1000, lost: 2000 },
      },
      map: null,
      document: null,
      patch: null,
    },
  },
];

/** A value with one part of it made another. */
function mutated(value: unknown, random: () => number): unknown {
  const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!;
  if (typeof value !== 'object' || value === null || random() < 0.15)
    return pick([null, true, -1, 1e308, [], {}, [[[]]], pick(WORDS), Math.floor(random() * 1000)]);
  if (Array.isArray(value)) return value.map((v) => (random() < 0.4 ? mutated(v, random) : v));
  const entries = Object.entries(value).map(([k, v]): [string, unknown] => [
    random() < 0.06 ? pick(WORDS) : k,
    random() < 0.35 ? mutated(v, random) : v,
  ]);
  return Object.fromEntries(random() < 0.1 ? [...entries, [pick(WORDS), pick(WORDS)]] : entries);
}

/** Bytes with some of them made others, cut, or doubled. */
function garbled(text: string, random: () => number): Buffer {
  const bytes = Buffer.from(text);
  for (let i = 0; i < bytes.length; i++) if (random() < 0.02) bytes[i] = Math.floor(random() * 256);
  const end = random() < 0.3 ? Math.floor(random() * bytes.length) : bytes.length;
  return random() < 0.1 ? Buffer.concat([bytes, bytes]) : bytes.subarray(0, end);
}

const DOCUMENTS = [
  '<stats><team side="home"><score>3</score></team></stats>',
  '{"teams":[{"side":"home","score":3},{"side":"away"}]}',
  'name,goals\nKeel,3\nOrr,4\n',
  '<feed xmlns="http://www.w3.org/2005/Atom"><entry><title type="html">a &lt;b&gt;</title></entry></feed>',
  '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0"/><script>x</script></svg>',
  '{"foothill":"tape","version":1}\n{"at":0,"look":true}\n',
];

/** How much of what was thrown at the engine. */
export interface Thrown {
  requests: number;
  messages: number;
  documents: number;
  sockets: number;
  /** Answers of 500 and above, but for those that say that the database is away. */
  broken: string[];
}

/** Throws mutated requests, messages, documents and bare bytes at a running engine until `ms` have passed. */
export async function throwAt(world: World, random: () => number, ms: number): Promise<Thrown> {
  const thrown: Thrown = { requests: 0, messages: 0, documents: 0, sockets: 0, broken: [] };
  const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!;
  const until = Date.now() + ms;
  const ask = async (path: string, body: string | Buffer) => {
    const response = await fetch(world.url + path, {
      method: 'POST',
      body: body as BodyInit,
      signal: AbortSignal.timeout(20_000),
    }).catch(() => null);
    if (response && response.status >= 500 && ![503, 507].includes(response.status))
      thrown.broken.push(`${response.status} ${path} ${String(body).slice(0, 200)}`);
    await response?.arrayBuffer().catch(() => {});
  };
  const inbox = dirname(world.statisticsFile);
  mkdirSync(inbox, { recursive: true });
  while (Date.now() < until) {
    const of = random();
    if (of < 0.5) {
      thrown.requests++;
      const request = mutated({ ...pick(REQUESTS), id: `fuzz-${Math.floor(random() * 1e12)}` }, random);
      await ask(
        '/api/actions',
        random() < 0.2 ? garbled(JSON.stringify(request), random) : JSON.stringify(request),
      );
    } else if (of < 0.65) {
      thrown.documents++;
      const document = garbled(pick(DOCUMENTS), random);
      if (random() < 0.5) writeFileSync(join(inbox, 'fuzz.xml'), document);
      await ask(pick(['/api/media?name=a.svg', '/api/media?name=a.png', '/api/tapes']), document);
    } else if (of < 0.85) {
      thrown.messages++;
      const socket = new WebSocket(
        `${world.url.replace('http', 'ws')}/socket?stream=${pick(['desk', 'air:broadcast', 'bytes:pad'])}`,
      );
      socket.on('error', () => {});
      socket.on('open', () => {
        for (let i = 0; i < 5; i++)
          socket.send(
            garbled(
              JSON.stringify(
                mutated(
                  { t: pick(['snapshot', 'ping', 'watch']), at: 1, of: { field: pick(WORDS) } },
                  random,
                ),
              ),
              random,
            ),
          );
      });
      await sleep(20);
      socket.terminate();
    } else {
      thrown.sockets++;
      const bare = connect(world.port, '127.0.0.1');
      bare.on('error', () => {});
      bare.write(
        garbled(
          `GET ${pick(['//', '/live', `/${pick(WORDS)}`, '/socket?stream=desk'])} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==\r\n\r\n`,
          random,
        ),
      );
      await sleep(5);
      if (random() < 0.5) bare.resetAndDestroy();
      else bare.destroy();
    }
  }
  return thrown;
}
