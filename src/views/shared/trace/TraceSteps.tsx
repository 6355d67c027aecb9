import { Fragment, type ReactNode } from 'react';
import type { Traced } from '../../../core/trace/traced.ts';
import type { Trace } from '../../../core/wire/wire.ts';
import { Button } from '../../../ui/Button.tsx';
import { tip } from '../../../ui/tip.ts';
import css from './TraceSteps.module.css';

interface Props {
  trace: Trace | null;
  /** The step of the thing itself, between where it comes from and where it is seen. */
  children?: ReactNode;
  onTrace: (of: Traced) => void;
}

/** The steps of a trace, from the bytes to the picture. What a value is made of can be traced further. */
export function TraceSteps({ trace, children, onTrace }: Props) {
  return (
    <dl className={css['steps']} aria-label="Where it comes from">
      {trace?.frame && (
        <Step name="Bytes">
          <code className={css['bytes']}>
            <Marked text={trace.frame.text} places={trace.frame.places} />
          </code>
          <code className={css['hex']} {...tip('the same in hexadecimal')}>
            <Marked
              text={trace.frame.hex}
              places={trace.frame.places.map(({ from, to }) => ({ from: from * 2, to: to * 2 }))}
            />
          </code>
        </Step>
      )}
      {trace?.derived && (
        <Step name="Made of">
          {trace.derived.how && <code className={css['how']}>{trace.derived.how}</code>}
          <span className={css['parts']}>
            {trace.derived.from.map(({ of, name, says }) =>
              of ? (
                <Button key={JSON.stringify(of)} onClick={() => onTrace(of)}>
                  {name} <b>{says || 'blank'}</b>
                </Button>
              ) : (
                <span key={name}>
                  {name} <b>{says || 'blank'}</b>
                </span>
              ),
            )}
            {trace.derived.from.length === 0 && 'nothing that is there now'}
            {trace.derived.more > 0 && <span>and {trace.derived.more} more</span>}
          </span>
        </Step>
      )}
      {trace?.document && (
        <Step name="Document">
          {trace.document.source}, {trace.document.format}: <code>{trace.document.place}</code> says{' '}
          <mark>{trace.document.raw || 'nothing'}</mark>
        </Step>
      )}
      {trace?.reading && (
        <Step name="Reading">
          {trace.reading.name}, {trace.reading.kind} “{trace.reading.raw}”{' '}
          {trace.reading.problem ? (
            <b className={css['problem']}>{trace.reading.problem}</b>
          ) : (
            <>→ {trace.reading.value}</>
          )}
        </Step>
      )}
      {trace?.patch && 'field' in trace.of && (
        <Step name="Patch">
          {trace.patch.reading} → {trace.of.field}
          {trace.patch.running && `, running by “${trace.patch.running}”`}
          {trace.patch.converted && ', converted'}
        </Step>
      )}
      {children}
      <Step name="On air">
        {trace === null
          ? '…'
          : trace.uses.length === 0
            ? 'nothing shows it now'
            : trace.uses.map((u) => `${u.item}: ${u.layer} (${u.property})`).join(' · ')}
      </Step>
    </dl>
  );
}

export function Step({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className={css['step']}>
      <dt>{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}

function Marked({ text, places }: { text: string; places: readonly { from: number; to: number }[] }) {
  const inOrder = places.toSorted((a, b) => a.from - b.from);
  return (
    <>
      {inOrder.map(({ from, to }, i) => (
        <Fragment key={from}>
          {text.slice(inOrder[i - 1]?.to ?? 0, from)}
          <mark>{text.slice(from, to)}</mark>
        </Fragment>
      ))}
      {text.slice(inOrder.at(-1)?.to ?? 0)}
    </>
  );
}
