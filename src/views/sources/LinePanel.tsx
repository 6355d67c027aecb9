import type { SourceBundle, Transport } from '../../core/source/source.ts';
import css from './SourcesView.module.css';

const KINDS = [
  { value: 'connect', label: 'TCP, we call' },
  { value: 'listen', label: 'TCP, it calls' },
  { value: 'udp', label: 'UDP' },
  { value: 'serial', label: 'Serial' },
] as const;

const kindOfLine = (t: Transport) => (t.kind === 'tcp' ? t.mode : t.kind);

function lineOf(kind: (typeof KINDS)[number]['value'], was: Transport): Transport {
  const host = 'host' in was ? was.host : '127.0.0.1';
  const port = 'port' in was ? was.port : 4000;
  if (kind === 'udp') return { kind: 'udp', host, port };
  if (kind !== 'serial') return { kind: 'tcp', mode: kind, host, port };
  return was.kind === 'serial'
    ? was
    : { kind: 'serial', path: '/dev/ttyUSB0', baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 };
}

/** Where the device is reached, and how long it may be silent. */
export function LinePanel({
  bundle,
  onChange,
}: {
  bundle: SourceBundle;
  onChange: (bundle: SourceBundle) => void;
}) {
  const { source } = bundle;
  const { transport: t, limits } = source;
  const set = (part: Partial<SourceBundle['source']>) =>
    onChange({ ...bundle, source: { ...source, ...part } });
  const line = (part: object) => set({ transport: { ...t, ...part } as Transport });
  const number = (text: string) => Number(text) || 0;
  return (
    <section className={css['panel']} aria-label="Line">
      <h2>Line</h2>
      <div className={css['fields']}>
        <label>
          Name <input value={source.name} onChange={(e) => set({ name: e.target.value })} maxLength={80} />
        </label>
        <label>
          Reached by{' '}
          <select
            value={kindOfLine(t)}
            onChange={(e) => set({ transport: lineOf(e.target.value as 'udp', t) })}
          >
            {KINDS.map((k) => (
              <option key={k.value} value={k.value}>
                {k.label}
              </option>
            ))}
          </select>
        </label>
        {t.kind === 'serial' ? (
          <>
            <label>
              Port <input value={t.path} onChange={(e) => line({ path: e.target.value })} size={14} />
            </label>
            <label>
              Speed{' '}
              <input
                inputMode="numeric"
                value={t.baud}
                onChange={(e) => line({ baud: number(e.target.value) })}
                size={7}
              />
            </label>
            <label>
              Bits{' '}
              <select value={t.dataBits} onChange={(e) => line({ dataBits: number(e.target.value) })}>
                <option>8</option>
                <option>7</option>
              </select>
            </label>
            <label>
              Parity{' '}
              <select value={t.parity} onChange={(e) => line({ parity: e.target.value })}>
                <option>none</option>
                <option>even</option>
                <option>odd</option>
              </select>
            </label>
            <label>
              Stop{' '}
              <select value={t.stopBits} onChange={(e) => line({ stopBits: number(e.target.value) })}>
                <option>1</option>
                <option>2</option>
              </select>
            </label>
          </>
        ) : (
          <>
            <label>
              {kindOfLine(t) === 'connect' ? 'Address' : 'Our address'}{' '}
              <input value={t.host} onChange={(e) => line({ host: e.target.value.trim() })} size={13} />
            </label>
            <label>
              Port{' '}
              <input
                inputMode="numeric"
                value={t.port}
                onChange={(e) => line({ port: number(e.target.value) })}
                size={6}
              />
            </label>
          </>
        )}
        <label title="Silence after which it is late, in seconds">
          Late after{' '}
          <input
            type="number"
            step="0.5"
            min="0.5"
            value={limits.late / 1000}
            onChange={(e) => set({ limits: { ...limits, late: Math.round(Number(e.target.value) * 1000) } })}
          />{' '}
          s
        </label>
        <label title="Silence after which it is lost, in seconds">
          Lost after{' '}
          <input
            type="number"
            step="0.5"
            min="1"
            value={limits.lost / 1000}
            onChange={(e) => set({ limits: { ...limits, lost: Math.round(Number(e.target.value) * 1000) } })}
          />{' '}
          s
        </label>
        <label title="After it was silent and another source stood in for it">
          Takes fields back{' '}
          <select value={source.back} onChange={(e) => set({ back: e.target.value as typeof source.back })}>
            <option value="stoppage">at a stoppage</option>
            <option value="at-once">at once</option>
            <option value="by-hand">by hand</option>
          </select>
        </label>
        <label>
          <input
            type="checkbox"
            checked={source.enabled}
            onChange={(e) => set({ enabled: e.target.checked })}
          />{' '}
          in use
        </label>
      </div>
    </section>
  );
}
