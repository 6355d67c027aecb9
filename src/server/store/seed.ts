import { readdir, readFile } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { emptyLane, type Lane } from '../../core/show/show.ts';
import { isRecord } from '../../core/board/own.ts';
import { parseSource } from '../../core/source/source-doc.ts';
import type { Transport } from '../../core/source/source.ts';
import { parseBundle } from '../../core/source/bundle.ts';
import type { Config } from '../config.ts';
import { DOCUMENT_KINDS, type DocumentKind, type Documents } from '../../core/documents/kinds.ts';
import type { Shipped } from '../live/world.ts';
import { Pictures } from '../media/pictures.ts';
import { keepTape } from '../tape/keep.ts';
import { readTapeFile } from '../tape/lines.ts';
import type { Store } from './store.ts';

/** The simulators' port in the demo's data files. */
const SEEDED_SIM_PORT = 4320;
/** How many ports after it are the simulators' too. */
const SIM_PORTS = 15;

/** Reads one data file as a document of its kind; throws with the file's name and every problem in it. */
async function readDocument(path: string, kind: DocumentKind): Promise<{ schema: number; key: string }> {
  const result = DOCUMENT_KINDS[kind].parse(JSON.parse(await readFile(path, 'utf8')));
  if (!result.ok) throw new Error(`${path} is not a ${kind}: ${result.problems.join('; ')}`);
  return result.value;
}

/** The documents of a folder that are of one kind. */
async function documentsIn(folder: string, kind: DocumentKind) {
  const files = await readdir(join(folder, kind)).catch(() => []);
  return Promise.all(
    files.filter((f) => f.endsWith('.json')).map((file) => readDocument(join(folder, kind, file), kind)),
  );
}

/**
 * Puts the documents of folders into the database; the outputs last and all in one, for a database that has one is filled: so a
 * seeding that was stopped halfway begins anew.
 */
async function seedFolders(store: Store, folders: readonly string[]): Promise<void> {
  const kinds = (Object.keys(DOCUMENT_KINDS) as DocumentKind[]).filter((kind) => kind !== 'output');
  for (const kind of [...kinds, 'output'] as const) {
    const found = await Promise.all(folders.map((folder) => documentsIn(folder, kind)));
    await store.putDocuments(kind, found.flat());
  }
}

/** A transport that goes to one of the simulators' ports, as they are now; null for any other. */
function movedTransport(t: Transport, from: number, to: number): Transport | null {
  const ours = (port: number) => port >= from && port <= from + SIM_PORTS;
  if (t.kind === 'tcp' || t.kind === 'udp') return ours(t.port) ? { ...t, port: t.port - from + to } : null;
  if (t.kind !== 'http') return null;
  const url = new URL(t.url);
  if (url.hostname !== '127.0.0.1' || !ours(Number(url.port))) return null;
  url.port = String(Number(url.port) - from + to);
  return { ...t, url: url.href };
}

/** Brings a folder of pictures into the media library, paths as they stand there. */
async function seedMedia(store: Store, folder: string): Promise<void> {
  const pictures = new Pictures(new URL('./pictures.js', import.meta.url));
  try {
    const files = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
    for (const file of files.filter((f) => f.isFile())) {
      const full = join(file.parentPath, file.name);
      const found = await pictures.inspect(await readFile(full), file.name);
      if ('problem' in found) throw new Error(found.problem);
      await store.putContent(found.about.hash, found.bytes);
      await store.putMedia({ path: relative(folder, full), ...found.about });
    }
  } finally {
    pictures.close();
  }
}

/** Puts the tapes of a folder, as they are exported, on the list. */
async function seedTapes(store: Store, folder: string): Promise<void> {
  for (const file of await readdir(folder).catch(() => [])) {
    const tape = await readTapeFile(await readFile(join(folder, file)));
    await store.putTape(await keepTape(store, tape));
  }
}

/** The controller's serial port: it says the same as its network line and stands behind that. */
async function seedSerial(store: Store, folder: string, path: string): Promise<void> {
  const read = async (name: string) =>
    JSON.parse(await readFile(join(folder, name), 'utf8')) as Record<string, unknown>;
  const [source, map, patch] = await Promise.all(
    ['source/controller.json', 'frame-map/lacrosse-console.json', 'patch/controller.json'].map(read),
  );
  const key = 'serial-console';
  const bundle = parseBundle({
    schema: 1,
    source: {
      ...source,
      key,
      name: 'Serial console',
      frameMap: key,
      transport: { kind: 'serial', path, baud: 19_200 },
    },
    map: { ...map, key, name: 'Serial console' },
    patch: {
      ...patch,
      key,
      source: key,
      links: (patch!['links'] as object[]).map((link) => ({ ...link, priority: 2 })),
    },
  });
  if (!bundle.ok) throw new Error(bundle.problems.join('; '));
  await store.putDocument('source', key, bundle.value.source);
  await store.putDocument('frame-map', key, bundle.value.map!);
  await store.putDocument('patch', key, bundle.value.patch!);
}

const basics = (config: Config) => join(config.home, 'data/basic');

/** The documents of a kind that ship with every Foothill. */
export const shippedWith =
  (config: Config): Shipped =>
  async <K extends 'profile' | 'output'>(kind: K) =>
    (await documentsIn(basics(config), kind)) as unknown as Documents[K][];

/** What every Foothill starts with: the sport profiles and an output to work on. */
export async function seedBasics(store: Store, config: Config): Promise<void> {
  if (await store.isEmpty()) await seedFolders(store, [basics(config)]);
}

/** Fills an empty database with the demo world. The demo controller's port follows the configuration. */
export async function seedDemo(store: Store, config: Config): Promise<void> {
  const folder = join(config.home, 'data/demo');
  if (await store.isEmpty()) {
    const { lanes } = JSON.parse(await readFile(join(folder, 'show.json'), 'utf8')) as { lanes: Lane[] };
    // What the demo has on air was taken just now.
    for (const lane of lanes)
      await store.putLane({
        ...emptyLane(lane),
        ...lane,
        onAir: lane.onAir && { ...lane.onAir, takenAt: Date.now() },
      });
    await seedMedia(store, join(folder, 'media'));
    await seedTapes(store, join(folder, 'tapes'));
    if (config.serial) await seedSerial(store, folder, config.serial);
    await seedFolders(store, [basics(config), folder]);
  }
  // The demo's own controllers follow the simulators' ports; a source that was moved elsewhere by hand stays there.
  const settings = (await store.documents('setting')).filter(isRecord);
  const from = settings.map((s) => s['simPort']).find((port) => typeof port === 'number') ?? SEEDED_SIM_PORT;
  if (from === config.simPort) return;
  for (const written of await store.documents('source')) {
    // One that cannot be read is left as it is.
    const read = parseSource(written);
    const moved = read.ok && movedTransport(read.value.transport, from, config.simPort);
    if (moved) await store.putDocument('source', read.value.key, { ...read.value, transport: moved });
  }
  await store.putDocument('setting', 'demo', { schema: 1, simPort: config.simPort });
}
