import { later } from '../../ui/Later.tsx';
import { deliveryOf, isByHand, type SourceBundle, type Transport } from '../../core/source/source.ts';
import { memo, useEffect, useState } from 'react';
import { FieldError } from '../shared/ValidatedForm.tsx';
import { tip } from '../../ui/tip.ts';
import { Seconds } from '../shared/TimeInput.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { Switch } from '../../ui/Switch.tsx';
import css from './SourcesView.module.css';

// What can be done without it at first comes after the first view.
const Suggest = later(() => import('../../ui/ComboBox.tsx').then((m) => m.Suggest));

const KINDS = [
  { value: 'connect', label: 'TCP, we call' },
  { value: 'listen', label: 'TCP, it calls' },
  { value: 'udp', label: 'UDP' },
  { value: 'serial', label: 'Serial' },
  { value: 'http', label: 'Web address' },
  { value: 'file', label: 'File' },
  { value: 'hand', label: 'By hand' },
] as const;
type LineKind = (typeof KINDS)[number]['value'];

const kindOfLine = (t: Transport): LineKind => (t.kind === 'tcp' ? t.mode : t.kind);

function lineOf(kind: LineKind, was: Transport, folders: readonly string[]): Transport {
  if (kind === was.kind) return was;
  const host = 'host' in was ? was.host : '127.0.0.1';
  const port = 'port' in was ? was.port : 4000;
  switch (kind) {
    case 'udp':
      return { kind, host, port };
    case 'serial':
      return { kind, path: '/dev/ttyUSB0', baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 };
    case 'file':
      return { kind, path: `${folders[0] ?? ''}/`, every: 500, limit: 20_000_000 };
    case 'http':
      return {
        kind,
        url: 'http://127.0.0.1:8080/stats.xml',
        every: 2000,
        timeout: 5000,
        limit: 20_000_000,
        header: null,
      };
    case 'hand':
      return { kind };
    default:
      return { kind: 'tcp', mode: kind, host, port };
  }
}

/** Where the device is reached, and how long it may be silent. */
export const LinePanel = memo(function LinePanel({
  bundle,
  folders,
  onChange,
}: {
  bundle: SourceBundle;
  /** Where files may be read from. */
  folders: readonly string[];
  onChange: (bundle: SourceBundle) => void;
}) {
  const { source } = bundle;
  const { transport: t, limits } = source;
  const set = (part: Partial<SourceBundle['source']>) =>
    onChange({ ...bundle, source: { ...source, ...part } });
  const line = (part: object) => set({ transport: { ...t, ...part } as Transport });
  return (
    <section className={css['panel']} aria-label="Line">
      <h2>Line</h2>
      <div className={css['fields']}>
        <label>
          Name <input value={source.name} onChange={(e) => set({ name: e.target.value })} maxLength={80} />
          <FieldError at="source.name" />
        </label>
        <label>
          Reached by{' '}
          <select
            value={kindOfLine(t)}
            onChange={(e) => set({ transport: lineOf(e.target.value as LineKind, t, folders) })}
          >
            {KINDS.map((k) => (
              <option key={k.value} value={k.value}>
                {k.label}
              </option>
            ))}
          </select>
        </label>
        <Reached t={t} folders={folders} onSet={line} />
        {deliveryOf(t) === 'bytes' && (
          <label>
            Silence is judged{' '}
            <select
              {...tip('What a device that sends nothing for a while is taken for')}
              value={limits.by ?? 'time'}
              onChange={(e) => {
                const by = e.target.value as 'time' | 'beat' | 'none';
                const { late, lost } = limits;
                set({ limits: by === 'time' ? { late, lost } : { late, lost, by } });
              }}
            >
              <option value="time">by time</option>
              <option value="beat">by the device’s own rhythm</option>
              <option value="none">not while connected</option>
            </select>
          </label>
        )}
        {!isByHand(source) && limits.by !== 'none' && (
          <>
            <Seconds
              label="Late after"
              min={500}
              value={limits.late}
              tip={tip('Silence after which it is late, in seconds; by its own rhythm never sooner')}
              onChange={(late) => set({ limits: { ...limits, late } })}
            />
            <Seconds
              label="Lost after"
              min={1000}
              value={limits.lost}
              tip={tip('Silence after which it is lost, in seconds')}
              onChange={(lost) => set({ limits: { ...limits, lost } })}
            />
            <FieldError at="source.limits" />
          </>
        )}
        {!isByHand(source) && (
          <label>
            Returns control{' '}
            <select
              {...tip('After it was silent and another source stood in for it')}
              value={source.back}
              onChange={(e) => set({ back: e.target.value as typeof source.back })}
            >
              <option value="stoppage">at a stoppage</option>
              <option value="at-once">at once</option>
              <option value="by-hand">by hand</option>
            </select>
          </label>
        )}
        <Switch on={source.enabled} onChange={(enabled) => set({ enabled })}>
          in use
        </Switch>
      </div>
    </section>
  );
});

/** What each way to reach a device asks for. */
function Reached({
  t,
  folders,
  onSet,
}: {
  t: Transport;
  folders: readonly string[];
  onSet: (part: object) => void;
}) {
  const number = (text: string) => Number(text) || 0;
  const text = (label: string, value: string, part: string, size: number) => (
    <label>
      {label} <input value={value} onChange={(e) => onSet({ [part]: e.target.value.trim() })} size={size} />
      <FieldError at={`source.transport.${part}`} />
    </label>
  );
  const whole = (label: string, value: number, part: string, size: number) => (
    <>
      <NumberField label={label} size={size} min={0} value={value} onChange={(n) => onSet({ [part]: n })} />
      <FieldError at={`source.transport.${part}`} />
    </>
  );
  const scaled = (label: string, value: number, part: string, by: number, unit: string) => (
    <>
      <NumberField
        label={label}
        unit={unit}
        step={0.5}
        min={0.1}
        decimals={1}
        value={value / by}
        onChange={(n) => onSet({ [part]: Math.round(n * by) })}
      />
      <FieldError at={`source.transport.${part}`} />
    </>
  );
  const choice = (label: string, value: string | number, part: string, options: (string | number)[]) => (
    <label>
      {label}{' '}
      <select
        value={value}
        onChange={(e) =>
          onSet({ [part]: typeof options[0] === 'number' ? number(e.target.value) : e.target.value })
        }
      >
        {options.map((o) => (
          <option key={o}>{o}</option>
        ))}
      </select>
    </label>
  );
  switch (t.kind) {
    case 'hand':
      return <span>The pad below stands in for a controller.</span>;
    case 'serial':
      return (
        <>
          <label>
            Port <SerialPort path={t.path} onChange={(path) => onSet({ path })} />
            <FieldError at="source.transport.path" />
          </label>
          {whole('Speed', t.baud, 'baud', 7)}
          {choice('Bits', t.dataBits, 'dataBits', [8, 7])}
          {choice('Parity', t.parity, 'parity', ['none', 'even', 'odd'])}
          {choice('Stop', t.stopBits, 'stopBits', [1, 2])}
        </>
      );
    case 'file':
      return (
        <>
          {text('Path', t.path, 'path', 44)}
          <span className={css['hint']}>Files are read from {folders.join(' or ')}</span>
          {scaled('Look every', t.every, 'every', 1000, 's')}
          {scaled('At most', t.limit, 'limit', 1e6, 'MB')}
        </>
      );
    case 'http':
      return (
        <>
          {text('Address', t.url, 'url', 44)}
          {scaled('Ask every', t.every, 'every', 1000, 's')}
          {scaled('Give up after', t.timeout, 'timeout', 1000, 's')}
          {scaled('At most', t.limit, 'limit', 1e6, 'MB')}
          <label
            {...tip(
              'Sent with each request, for a key that the service asks for; export leaves its value out',
            )}
          >
            Header{' '}
            <input
              value={t.header?.name ?? ''}
              placeholder="none"
              aria-label="Name of the header"
              size={12}
              onChange={(e) => {
                const name = e.target.value.trim();
                onSet({ header: name ? { value: '', ...t.header, name } : null });
              }}
            />
            {t.header && (
              <input
                type="password"
                autoComplete="off"
                value={t.header.value}
                aria-label="Value of the header"
                placeholder={t.header.kept ? 'Set · type to replace' : 'Value'}
                size={20}
                onChange={(e) => onSet({ header: { ...t.header!, value: e.target.value } })}
              />
            )}
          </label>
        </>
      );
    default:
      return (
        <>
          {text(t.kind === 'tcp' && t.mode === 'connect' ? 'Address' : 'Our address', t.host, 'host', 13)}
          {whole('Port', t.port, 'port', 6)}
        </>
      );
  }
}

/** The serial ports that are there, to choose from as a path is typed. */
function SerialPort({ path, onChange }: { path: string; onChange: (path: string) => void }) {
  const [ports, setPorts] = useState<{ path: string; about: string }[] | null>(null);
  useEffect(() => {
    let over = false;
    void fetch('/api/serial-ports')
      .then((r) => r.json() as Promise<{ ports: { path: string; about: string }[] }>)
      .then((found) => !over && setPorts(found.ports))
      .catch(() => !over && setPorts([]));
    return () => {
      over = true;
    };
  }, []);
  return (
    <>
      <Suggest
        label="Port"
        value={path}
        size={18}
        suggestions={(ports ?? []).map((p) => ({ value: p.path, name: `${p.path} · ${p.about}` }))}
        onChange={(typed) => onChange(typed.trim())}
      />
      {ports?.length === 0 && <span className={css['hint']}>No serial port is there.</span>}
    </>
  );
}
