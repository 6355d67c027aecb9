import { useRef, useState, type ReactNode } from 'react';
import type { FieldDef } from '../../core/sport/profile.ts';
import type { BoardField, Trace } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { typedText, type Desk } from '../shared/desk.ts';
import { Digits, valueText } from '../shared/Digits.tsx';
import css from './TracePanel.module.css';

interface Props {
  desk: Desk;
  def: FieldDef;
  field: BoardField;
  trace: Trace | null;
  onClose: () => void;
  onTrace: (key: string) => void;
}

/** One field: hold it by a pin, let it go, and see why it says what it says, from the bytes to the picture. */
export function TracePanel({ desk, def, field, trace, onClose, onTrace }: Props) {
  const now = desk.link.serverNow;
  const [text, setText] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const { pin } = field;
  const pinned = pin !== undefined;

  const hold = async () => {
    const answer = await desk.act({ kind: 'pin', field: def.key, text: text ?? current() });
    if (!answer.ok) return;
    setText(null);
    input.current?.blur();
  };
  const current = () => typedText(pin ? pin.value : field.value);
  const release = () => void desk.act({ kind: 'release', field: def.key });
  useKeys({
    p: () => {
      input.current?.focus();
      input.current?.select();
    },
    ...(pinned ? { r: release } : {}),
    escape: onClose,
  });

  return (
    <section className={css['panel']} aria-label={`Trace of ${def.label}`}>
      <header className={css['head']}>
        <h2>{def.label}</h2>
        <strong>
          <Digits def={def} value={pin ? pin.value : field.value} now={now} />
        </strong>
        {pin && <span className={css['pinned']}>pinned</span>}
        <form
          className={css['pin']}
          onSubmit={(event) => {
            event.preventDefault();
            void hold();
          }}
        >
          <input
            ref={input}
            list={def.kind === 'choice' ? 'pin-choices' : undefined}
            value={text ?? current()}
            aria-label={`Hold ${def.label} at`}
            onFocus={() => setText(current())}
            onBlur={(event) => {
              if (!event.currentTarget.form?.contains(event.relatedTarget)) setText(null);
            }}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Escape') event.currentTarget.blur();
            }}
          />
          {def.kind === 'choice' && (
            <datalist id="pin-choices">
              {def.choices.map((c) => (
                <option key={c} value={c} />
              ))}
            </datalist>
          )}
          <Button type="submit" shortcut="P">
            Pin
          </Button>
        </form>
        <Button shortcut="R" onClick={release} disabled={!pinned}>
          Release
        </Button>
      </header>
      <dl className={css['steps']}>
        {trace?.frame && (
          <Step name="Bytes">
            <code className={css['bytes']}>
              <Marked
                text={trace.frame.text}
                from={trace.frame.offset}
                to={trace.frame.offset + trace.frame.length}
              />
            </code>
            <code className={css['hex']} title="the same in hexadecimal">
              <Marked
                text={trace.frame.hex}
                from={trace.frame.offset * 2}
                to={(trace.frame.offset + trace.frame.length) * 2}
              />
            </code>
          </Step>
        )}
        {trace?.derived && (
          <Step name="Worked out of">
            {trace.derived.from.map(({ key, name, table }) =>
              table ? (
                <span key={key}>the table {name} </span>
              ) : (
                <Button key={key} onClick={() => onTrace(key)}>
                  {name} {typedText(desk.read(key)) || 'blank'}
                </Button>
              ),
            )}
          </Step>
        )}
        {trace?.document && (
          <Step name="Document">
            {trace.document.source}, {trace.document.format}: <code>{trace.document.place}</code>
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
        {trace?.patch && (
          <Step name="Patch">
            {trace.patch.reading} → {def.key}
            {trace.patch.running && `, running by “${trace.patch.running}”`}
            {trace.patch.converted && ', converted'}
          </Step>
        )}
        <Step name="Field">
          {field.origin ? (
            <>
              {nameOfOrigin(desk, field.origin)} says <Digits def={def} value={field.value} now={now} />
            </>
          ) : (
            'nothing was said yet'
          )}
          {pin && (
            <>
              {' '}
              · <b className={css['pinned']}>held at {valueText(def, pin.value, now())}</b>
            </>
          )}
        </Step>
        <Step name="On air">
          {trace === null
            ? '…'
            : trace.uses.length === 0
              ? 'nothing shows it now'
              : trace.uses.map((u) => `${u.item}: ${u.layer} (${u.property})`).join(' · ')}
        </Step>
      </dl>
    </section>
  );
}

/** A source by its name; the game and what is worked out by theirs. */
function nameOfOrigin(desk: Desk, origin: string): string {
  const source = desk.getState().desk?.sources.find((s) => s.key === origin);
  return source?.name ?? (origin === 'derived' ? 'a derivation' : `the ${origin}`);
}

function Step({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className={css['step']}>
      <dt>{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}

function Marked({ text, from, to }: { text: string; from: number; to: number }) {
  return (
    <>
      {text.slice(0, from)}
      <mark>{text.slice(from, to)}</mark>
      {text.slice(to)}
    </>
  );
}
