import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { execFileSync } from 'node:child_process';
import {
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { pino } from 'pino';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { zipSync } from 'fflate';
import writeWorkbook from 'write-excel-file/node';
import { News } from '../../../sim/news.ts';
import { parseSource } from '../../../core/source/source.ts';
import type { DocMap } from '../../../core/tree/doc-map.ts';
import { parsePlace, valueAt } from '../../../core/tree/place.ts';
import { DocumentSource, type Fetcher } from './document-source.ts';
import { FILES, fileFetcher } from './file.ts';
import { readHostPolicy, refuseAddress } from './hosts.ts';
import { httpFetcher } from './http.ts';
import { plainText } from './html.ts';
import { parseDocumentBytes } from './parse.ts';
import type { DocumentReader } from './reader.ts';
import { readBytes, type Job } from './work.ts';
import { cleanedLine } from '../../store/clean-secrets.ts';
import type { Ears } from '../ears.ts';

setFlagsFromString('--expose-gc');
const collectGarbage = runInNewContext('gc') as () => void;
const bytes = (text: string) => new TextEncoder().encode(text);
const nasty = new URL('../../../../tests/nasty/', import.meta.url);
let closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.reverse()) await close();
  closing = [];
});

describe('secrets in what was written down', () => {
  it('are taken out wherever a header has a value, and nothing else is touched', () => {
    const transport = { kind: 'http', url: 'http://x', header: { name: 'X-Key', value: 's3cret' } };
    const line = JSON.stringify({ at: 1, bundle: { source: { transport } }, also: [1, { header: 'x' }] });
    const clean = JSON.parse(cleanedLine(line)) as {
      bundle: { source: { transport: object } };
      also: unknown;
    };
    expect(clean.bundle.source.transport).toEqual({
      ...transport,
      header: { name: 'X-Key', value: '', kept: true },
    });
    expect(clean.also).toEqual([1, { header: 'x' }]);
    for (const other of ['no json "header"', '{"header":{"name":"x","value":"y"}}', '{"at":1}'])
      expect(cleanedLine(other)).toBe(other);
  });
});

describe('nasty documents', () => {
  const SAYS: Record<string, RegExp> = {
    'half.xml': /XML breaks off.*<score>3/,
    'half.json': /JSON breaks off/,
    'sign-in.xml': /web page came instead of data: Please sign in/,
    'billion.xml': /declares entities of its own/,
    'outside.xml': /declares entities of its own/,
    'unknown-entity.xml': /XML breaks off or is wrong/,
    'empty.txt': /is empty/,
    'torn.xlsx': /workbook is damaged/,
    'open-quote.csv': /quotation mark in row 2 is not closed/,
    'binary.dat': /neither text nor a workbook/,
    'apology.txt': /no table, and neither XML nor JSON: Service temporarily/,
  };
  it.each(readdirSync(nasty))('%s is refused in a sentence', async (file) => {
    expect(SAYS[file], 'a sample without its sentence').toBeDefined();
    await expect(parseDocumentBytes(readFileSync(new URL(file, nasty)))).rejects.toThrow(SAYS[file]);
  });
  it.each([
    ['nested', `${'<a>'.repeat(5000)}${'</a>'.repeat(5000)}`, /nested more than 200 deep/],
    ['two roots', '<a/><b/>', /XML breaks off or is wrong/],
    ['too wide a sheet', `${'a,'.repeat(1200)}b\n${'1,'.repeat(1200)}2\n`, /1201 columns; 1000 is the limit/],
    ['too long a list', `[${'0,'.repeat(2e6)}0]`, /more than 1500000 elements/],
    ['too many elements', `<a>${'<b/>'.repeat(1_600_000)}</a>`, /more than 1500000 elements/],
  ])('%s is refused', async (_name, text, says) =>
    expect(parseDocumentBytes(bytes(text))).rejects.toThrow(says),
  );
});

describe('formats', () => {
  const at = async (input: Uint8Array, place: string, type = '') => {
    const { root } = await parseDocumentBytes(input, type);
    return valueAt({ node: root, parent: null }, parsePlace(place)!);
  };
  it.each([
    ['<s><p n="07"><![CDATA[Keel & Co]]></p></s>', '/s/p', 'Keel & Co'],
    ['<s><p n="07">a &#233; &amp; b</p></s>', '/s/p', 'a é & b'],
    ['{"a":{"b":[1,2.5]}}', '/document/a/b[2]', 2.5],
    ['name;goals\nKeel;007\n', '/table/row/goals', '007'],
    ['name\tavg\nKeel\t.317\n', "/table/row[name='Keel']/avg", '.317'],
    ['\uFEFFname,goals\nKeel,3\n', '/table/row/name', 'Keel'],
  ])('%j at %s says %j', async (text, place, value) => expect(await at(bytes(text), place)).toBe(value));

  it('reads a workbook whose one cell is its last, at the price of one cell', async () => {
    const sheet =
      '<worksheet><sheetData><row r="1"><c r="A1"><v>1</v></c></row><row r="1048576"><c r="XFD1048576"><v>1</v></c></row></sheetData></worksheet>';
    const book = zipSync({
      'xl/workbook.xml': bytes('<workbook><sheets><sheet name="s" r:id="r1"/></sheets></workbook>'),
      'xl/_rels/workbook.xml.rels': bytes(
        '<Relationships><Relationship Id="r1" Target="worksheets/sheet1.xml"/></Relationships>',
      ),
      'xl/worksheets/sheet1.xml': bytes(sheet),
    });
    const before = process.memoryUsage().rss;
    expect((await parseDocumentBytes(book)).root.children[0]!.children.length).toBeLessThan(2);
    expect(process.memoryUsage().rss - before).toBeLessThan(50e6);
    // The header of a part says that it unpacks to 4 GB.
    const lying = Uint8Array.from(book);
    const view = new DataView(lying.buffer);
    for (let i = 0; i + 4 < lying.length; i++)
      if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, 0xfffffff0, true);
    await expect(parseDocumentBytes(lying)).rejects.toThrow(/unpacks to more than/);
  });

  it('reads the code page that is named, and what spreadsheets write where none is', async () => {
    const latin = Uint8Array.from([...bytes('name,n\nJos'), 0xe9, ...bytes(',1\n')]);
    expect(await at(latin, '/table/row/name')).toBe('José');
    expect(await at(latin, '/table/row/name', 'text/csv; charset=iso-8859-1')).toBe('José');
    const xml = Uint8Array.from([
      ...bytes('<?xml version="1.0" encoding="iso-8859-1"?><a>'),
      0xe9,
      ...bytes('</a>'),
    ]);
    expect(await at(xml, '/a')).toBe('é');
  });

  it('reads a workbook: texts keep their form, numbers are numbers', async () => {
    const cell = (value: string) => ({ value, type: String });
    const book = await writeWorkbook(
      [
        [cell('slot'), cell('seconds')],
        [cell('007'), { value: 8.5, type: Number }],
      ],
      { sheet: 'sponsors' },
    ).toBuffer();
    expect(await at(book, '/workbook/sponsors/row/slot')).toBe('007');
    expect(await at(book, '/workbook/sponsors/row/seconds')).toBe(8.5);
  });

  it('reads the same stories out of RSS, Atom and JSON Feed, freed of HTML', async () => {
    const news = new News();
    for (const text of [news.rss(), news.atom(), JSON.stringify(news.json())]) {
      const { format, root } = await parseDocumentBytes(bytes(text));
      expect(format).toBe('feed');
      const entries = root.children.filter((c) => c.name === 'entry');
      expect(entries).toHaveLength(5);
      const said = (i: number, name: string) => entries[i]!.children.find((c) => c.name === name)!.value;
      expect(said(0, 'published')).toBe('2026-11-24T09:00:00.000Z');
      expect(said(2, 'summary')).toBe('The Fellside League heard from 4,000 members & agreed.');
    }
  });

  it.each<[string, string, Record<string, string | null>]>([
    [
      'Atom of XHTML, with several links',
      `<feed xmlns="http://www.w3.org/2005/Atom"><entry><title type="xhtml"><div xmlns="http://www.w3.org/1999/xhtml">Owls <b>win</b> it</div></title><link rel="enclosure" href="/a.mp3"/><link href="/story"/></entry></feed>`,
      { title: 'Owls win it', link: '/story' },
    ],
    [
      'Atom of escaped HTML and of plain text',
      `<feed xmlns="http://www.w3.org/2005/Atom"><entry><title type="html">Owls &lt;b&gt;win&lt;/b&gt; &amp;amp; rest</title><summary>3 &lt; 4 &amp; 5</summary></entry></feed>`,
      { title: 'Owls win & rest', summary: '3 < 4 & 5' },
    ],
    [
      'Atom by a prefix',
      `<a:feed xmlns:a="http://www.w3.org/2005/Atom"><a:entry><a:title>Owls</a:title></a:entry></a:feed>`,
      { title: 'Owls' },
    ],
    [
      'RSS with plain titles, escaped markup and another vocabulary',
      `<rss version="2.0"><channel><item><title>Foxes &lt; Owls &amp; more</title><description>&lt;p&gt;So&amp;nbsp;said&lt;/p&gt;</description><media:credit role="x">Ann</media:credit></item></channel></rss>`,
      { title: 'Foxes < Owls & more', summary: 'So said', 'media:credit': 'Ann' },
    ],
  ])('reads a feed as its maker meant it: %s', async (_, text, wanted) => {
    const { format, root } = await parseDocumentBytes(bytes(text));
    expect(format).toBe('feed');
    const entry = root.children.find((c) => c.name === 'entry')!;
    for (const [name, value] of Object.entries(wanted))
      expect(entry.children.find((c) => c.name === name)?.value, name).toBe(value);
  });

  it('takes a root called feed for one only where it is Atom, and a page in a text for no page', async () => {
    expect((await parseDocumentBytes(bytes('<feed><score>3</score></feed>'))).format).toBe('XML');
    const { format } = await parseDocumentBytes(bytes('<a><b><![CDATA[<html><p>x</p>]]></b></a>'));
    expect(format).toBe('XML');
  });

  it.each<[string, Uint8Array, string, string, unknown]>([
    [
      'curly signs of windows-1252',
      Uint8Array.from([
        ...bytes('name,n\nO'),
        0x92,
        ...bytes('Hara '),
        0x97,
        ...bytes(' '),
        0x80,
        ...bytes(',1\n'),
      ]),
      '',
      '/table/row/name',
      'O\u2019Hara \u2014 \u20ac',
    ],
    [
      'the same where it is named',
      Uint8Array.from([...bytes('name,n\nO'), 0x92, ...bytes('Hara,1\n')]),
      'text/csv; charset=windows-1252',
      '/table/row/name',
      'O\u2019Hara',
    ],
    [
      'one bad byte in UTF-8',
      Uint8Array.from([...bytes('name,n\nJosé, Ána '), 0xe9, ...bytes(',1\n')]),
      '',
      '/table/row/name',
      'José',
    ],
    [
      'UTF-16',
      Uint8Array.from([0xff, 0xfe, ...Buffer.from('name,n\nJosé,1\n', 'utf16le')]),
      '',
      '/table/row/name',
      'José',
    ],
    ['a separator that is told', bytes('sep=|\nname|n\nA, B|1\n'), '', '/table/row/name', 'A, B'],
    [
      'a whole number that no computer holds',
      bytes('{"id":12345678901234567890,"n":1.50,"big":1e300}'),
      '',
      '/document/id',
      '12345678901234567890',
    ],
  ])('reads %s', async (_, input, type, place, value) => expect(await at(input, place, type)).toBe(value));

  it('reads what the cells of a workbook show, with what is behind it beside', async () => {
    const number = (value: number, format: string) => ({ value, type: Number, format });
    const book = await writeWorkbook(
      [
        [{ value: 'Herons, home games', type: String }],
        [],
        ['no', 'pct', 'time', 'day', 'sum'].map((value) => ({ value, type: String })),
        [
          number(7, '000'),
          number(0.667, '0.0%'),
          number(245 / 1440 / 60, 'm:ss'),
          { value: new Date('2026-11-28T00:00:00Z'), type: Date, format: 'dd/mm/yyyy' },
          number(1234.5, '#,##0.00'),
        ],
      ],
      { sheet: 's' },
    ).toBuffer();
    const said = await Promise.all(
      ['no', 'pct', 'time', 'day', 'sum', 'pct/@raw'].map((c) => at(book, `/workbook/s/row/${c}`)),
    );
    expect(said).toEqual(['007', '66.7%', '4:05', '2026-11-28', '1,234.50', '0.667']);
  });

  it('takes the newest 500 of a feed of 10,000 entries', async () => {
    const items = '<item><guid>1</guid><title>x</title></item>'.repeat(10_000);
    const { root } = await parseDocumentBytes(bytes(`<rss version="2.0"><channel>${items}</channel></rss>`));
    expect(root.children).toHaveLength(501);
  });

  it('frees text of HTML', () => {
    expect(plainText('<p>Keel &amp; Co<script>alert(1)</script> <b>won</b></p>')).toBe('Keel & Co won');
  });
});

describe('files', () => {
  it('gives a file when it changed, and says what is wrong with one that cannot be had', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'foothill-file-'));
    closing.push(() => rmSync(folder, { recursive: true }));
    const path = join(folder, 'stats.xml');
    const fetcher = fileFetcher({ path, limit: 50 }, [folder]);
    await expect(fetcher.fetch()).rejects.toThrow(/There is no file/);
    writeFileSync(path, '<a/>');
    expect(Buffer.from((await fetcher.fetch())!.bytes).toString()).toBe('<a/>');
    expect(await fetcher.fetch()).toBeNull();
    fetcher.forget();
    expect(await fetcher.fetch()).not.toBeNull();
    writeFileSync(path, 'x'.repeat(51));
    await expect(fetcher.fetch()).rejects.toThrow(/the limit is/);
    mkdirSync(join(folder, 'inner'));
    for (const [name, why] of [
      ['inner', /is not a file/],
      ['pipe', /is not a file/],
      ['out', /is not in/],
      ['../elsewhere.xml', /is not in|no file/],
    ] as const) {
      if (name === 'pipe') execFileSync('mkfifo', [join(folder, name)]);
      if (name === 'out') symlinkSync('/etc/hostname', join(folder, name));
      await expect(
        fileFetcher({ path: join(folder, name), limit: 50 }, [folder]).fetch(),
        name,
      ).rejects.toThrow(why);
    }
    await expect(fileFetcher({ path: '/dev/zero', limit: 50 }, [folder, '/dev']).fetch()).rejects.toThrow(
      /is not a file/,
    );
    await expect(fileFetcher({ path: '/etc/passwd', limit: 50 }, [folder]).fetch()).rejects.toThrow(
      /is not in/,
    );
  });

  it('gives up what never answers, and no other source waits for it', async () => {
    vi.useFakeTimers();
    const asked = vi.spyOn(FILES, 'realpath').mockImplementation(() => new Promise<never>(() => {}));
    const silent = Array.from({ length: 9 }, (_, i) =>
      fileFetcher({ path: `/share/${i}`, limit: 50 }, ['/share']),
    );
    const first = silent.map((f) => f.fetch().catch((e: Error) => e.message));
    await vi.advanceTimersByTimeAsync(6000);
    const said = await Promise.all(first);
    expect(said.filter((t) => /does not answer/.test(String(t)))).toHaveLength(8);
    expect(said[8]).toMatch(/no more are asked for/);
    await expect(silent[0]!.fetch()).rejects.toThrow(/does not answer/);
    expect(asked).toHaveBeenCalledTimes(8);
    asked.mockRestore();
    vi.useRealTimers();
  });
});

const serve = async (answer: RequestListener): Promise<string> => {
  const server: Server = createServer(answer);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  closing.push(() => {
    server.closeAllConnections();
    return server.close();
  });
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
};
const fetcherOf = (url: string, more: object = {}, policy = readHostPolicy(undefined)) =>
  httpFetcher({ kind: 'http', url, every: 1000, timeout: 400, limit: 1000, header: null, ...more }, policy);

describe('web addresses', () => {
  it('asks anew only for what changed, sends its header, unpacks', async () => {
    const seen: (string | undefined)[] = [];
    const url = await serve((request, response) => {
      seen.push(request.headers['x-key'] as string);
      if (request.headers['if-none-match'] === '"1"') return response.writeHead(304).end();
      response.writeHead(200, { etag: '"1"', 'content-encoding': 'gzip' }).end(gzipSync('{"a":1}'));
    });
    const one = fetcherOf(url, { header: { name: 'X-Key', value: 'k' } });
    expect(Buffer.from((await one.fetch())!.bytes).toString()).toBe('{"a":1}');
    expect(await one.fetch()).toBeNull();
    expect(seen).toEqual(['k', 'k']);
  });

  it.each<[string, RequestListener, RegExp]>([
    ['a 500', (_, r) => r.writeHead(500, 'Broken').end(), /answered 500 Broken/],
    ['a circle', (_, r) => r.writeHead(302, { location: '/' }).end(), /redirects in a circle/],
    ['a file', (_, r) => r.writeHead(302, { location: 'file:///etc/passwd' }).end(), /no address of the web/],
    [
      'a forbidden host',
      (_, r) => r.writeHead(302, { location: 'http://169.254.1.1/' }).end(),
      /no address that a feed/,
    ],
    [
      '200 MB named',
      (_, r) => r.writeHead(200, { 'content-length': 2e8 }).write('x'),
      /longer than the limit/,
    ],
    ['200 MB unnamed', (_, r) => r.end('x'.repeat(5000)), /longer than the limit/],
    [
      'a bomb',
      (_, r) => r.writeHead(200, { 'content-encoding': 'gzip' }).end(gzipSync('x'.repeat(1e6))),
      /longer than the limit/,
    ],
    ['silence', () => {}, /did not answer within 0.4 s/],
    [
      'a break',
      (_, r) => (r.writeHead(200, { 'content-length': 50 }).write('x'), setTimeout(() => r.destroy(), 20)),
      /broke off/,
    ],
    [
      'a packed body that breaks off',
      (_, r) => {
        r.writeHead(200, { 'content-encoding': 'gzip' }).write(gzipSync('x'.repeat(900)).subarray(0, 12));
        setTimeout(() => r.destroy(), 20);
      },
      /broke off/,
    ],
    [
      'a packed body that stops',
      (_, r) =>
        r.writeHead(200, { 'content-encoding': 'gzip' }).write(gzipSync('x'.repeat(900)).subarray(0, 12)),
      /did not come to its end in time/,
    ],
    [
      'what is not packed as it says',
      (_, r) => r.writeHead(200, { 'content-encoding': 'br' }).end('plain'),
      /broke off/,
    ],
    [
      'an unknown way of packing',
      (_, r) => r.writeHead(200, { 'content-encoding': 'constructor' }).end('x'),
      /packed in a way that is not known/,
    ],
    // Memory is tidied up meanwhile: whatever was to give up the wait must outlive that.
    [
      'a drip',
      (_, r) => (r.write('x'), void setTimeout(collectGarbage, 50)),
      /did not come to its end in time/,
    ],
  ])('says what came instead of a document: %s', async (_name, answer, says) => {
    await expect(fetcherOf(await serve(answer)).fetch()).rejects.toThrow(says);
  });

  it('keeps its header from hosts that it is sent on to', async () => {
    const seen: unknown[] = [];
    const other = await serve(
      (request, response) => (seen.push(request.headers['x-key']), response.end('{}')),
    );
    const url = await serve((_, response) => response.writeHead(302, { location: other }).end());
    await fetcherOf(url, { header: { name: 'X-Key', value: 'secret' } }).fetch();
    expect(seen).toEqual([undefined]);
  });

  it('reaches only hosts that the policy allows, by name and by address', async () => {
    const url = await serve((_, r) => r.end('{}'));
    const outside = readHostPolicy('public, private');
    await expect(fetcherOf(url, {}, outside).fetch()).rejects.toThrow(/is a loopback address/);
    const named = url.replace('127.0.0.1', 'localhost');
    await expect(fetcherOf(named, {}, outside).fetch()).rejects.toThrow(/is a loopback address/);
    expect(() => readHostPolicy('venue')).toThrow(/"venue"/);
  });

  it.each([
    ['127.0.0.1', 'loopback', null],
    ['::ffff:127.0.0.1', 'public', /loopback/],
    ['10.1.2.3', 'private', null],
    ['8.8.4.4', 'private', /public/],
    ['::ffff:7f00:1', 'public', /loopback/],
    ['::ffff:0:127.0.0.1', 'public', /loopback/],
    ['64:ff9b::127.0.0.1', 'public', /loopback/],
    ['64:ff9b::a9fe:a9fe', 'loopback,private,public', /no address/],
    ['64:ff9b:1::10.1.2.3', 'public', /private/],
    ['2002:7f00:1::', 'public', /loopback/],
    ['::127.0.0.1', 'public', /loopback/],
    ['::1', 'public', /loopback/],
    ['fd00::7', 'public', /private/],
    ['2606:4700::1111', 'public', null],
    ['fe80::1%eth0', 'loopback,private,public', /no address/],
    ['fe80::1', 'loopback,private,public', /no address/],
    ['0.0.0.0', 'loopback,private,public', /no address/],
  ])('%s under %s', (address, policy, says) => {
    const refused = refuseAddress(address, readHostPolicy(policy));
    if (says) expect(refused).toMatch(says);
    else expect(refused).toBeNull();
  });
});

describe('DocumentSource', () => {
  /** A source over a fetcher, whose documents are read here and not in another thread. */
  function sourceOf(
    fetcher: Fetcher,
    map: DocMap | null,
    heard: { read?: Ears['read']; asked?: (job: Job) => void } = {},
  ): DocumentSource {
    const doc = parseSource({
      schema: 1,
      key: 's',
      name: 'S',
      transport: { kind: 'file', path: '/s.json', every: 60_000 },
      limits: { late: 1000, lost: 2000 },
    });
    const read = (job: Job) => (heard.asked?.(job), readBytes(job));
    const source = new DocumentSource(
      doc.ok ? doc.value : null!,
      map,
      fetcher,
      { read } as unknown as DocumentReader,
      {
        read: heard.read ?? (() => {}),
        said: () => {},
        now: Date.now,
        during: (work) => work(),
        log: pino({ level: 'silent' }),
      },
    );
    closing.push(() => source.stop());
    return source;
  }

  it('lets the last good document stand, says why, and takes up the next good one', async () => {
    const answers: (string | null)[] = ['{"score":1}', '{"sco', null, '{"score":2}'];
    const asked: boolean[] = [];
    const fetcher: Fetcher = {
      forget: () => asked.push(true),
      fetch: () => {
        const text = answers.shift() ?? null;
        return Promise.resolve(text === null ? null : { bytes: bytes(text), type: '' });
      },
    };
    const scores: unknown[] = [];
    const score = { name: 'score', place: '/document/score', as: 'number' as const };
    const source = sourceOf(
      fetcher,
      { schema: 1, key: 's', tables: [], readings: [score] },
      { read: (read) => scores.push(read.readings[0]!.value) },
    );
    await source.fetchNow();
    await source.fetchNow();
    expect(source.state()).toMatchObject({
      connected: false,
      trouble: { text: expect.stringContaining('breaks off') as string },
    });
    expect(source.last!.readings[0]).toMatchObject({ value: 1 });
    expect(asked).toEqual([true]);
    await source.fetchNow();
    await source.fetchNow();
    expect(scores).toEqual([1, 2]);
    const tried = await source.tryMap(null)!;
    expect(tried.tree).toMatchObject({ name: 'document' });
    await vi.waitFor(() => expect(source.state().connected).toBe(true));
  });

  it('finds a cell in the newest document, once for each document, and keeps the last answer meanwhile', async () => {
    const answers = [1, 2].map((goals) => bytes(`{"players":[{"no":"7","goals":${goals}},{"no":"9"}]}`));
    const column = (name: string) => ({ name, place: name, as: 'text' as const });
    const table = {
      key: 'p',
      name: 'P',
      rows: '/document/players',
      columns: [column('no'), column('goals')],
      keyed: ['no'],
      limit: 10,
    };
    let sought = 0;
    const source = sourceOf(
      { forget: () => {}, fetch: () => Promise.resolve({ bytes: answers.shift()!, type: '' }) },
      { schema: 1, key: 's', readings: [], tables: [table] },
      { asked: ({ find }) => find && sought++ },
    );
    const cell = { table: 'p', row: '7', column: 'goals' };
    expect(source.whereIs(cell)).toBeNull();
    await source.fetchNow();
    const raw = () => source.whereIs(cell)?.raw;
    await vi.waitFor(() => expect(raw()).toBe('1'));
    expect(source.whereIs(cell)).toMatchObject({ format: 'JSON', place: "/document/players[no='7']/goals" });
    expect(sought).toBe(1);
    await source.fetchNow();
    expect(raw()).toBe('1');
    await vi.waitFor(() => expect(raw()).toBe('2'));
    expect(sought).toBe(2);
    expect(source.whereIs({ ...cell, row: '8' })).toBeNull();
  });

  it('asks anew at once when it is told to fetch while an address hangs, and calls that no trouble', async () => {
    let hangs = true;
    const url = await serve((_, response) => {
      if (!hangs) response.end('{"a":1}');
    });
    const source = sourceOf(fetcherOf(url, { timeout: 60_000 }), null);
    const first = source.fetchNow();
    await new Promise((done) => setTimeout(done, 30));
    hangs = false;
    await source.fetchNow();
    await first;
    await vi.waitFor(() => expect(source.last).not.toBeNull());
    expect(source.state()).toMatchObject({ trouble: null, counts: { good: 1, badChecks: 0 } });
  });
});
