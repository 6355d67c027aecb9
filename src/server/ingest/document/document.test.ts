import { readdirSync, readFileSync } from 'node:fs';
import { afterEach, describe, expect, it } from 'vitest';
import { zipSync } from 'fflate';
import writeWorkbook from 'write-excel-file/node';
import { NewsFeed } from '../../../sim/news.ts';
import { parsePlace, valueAt } from '../../../core/tree/place.ts';
import { plainText } from './html.ts';
import { parseDocumentBytes } from './parse.ts';
import { cleanedLine } from '../../store/clean-secrets.ts';

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
    const news = new NewsFeed();
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
