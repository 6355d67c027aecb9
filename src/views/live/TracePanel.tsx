import { useRef, useState, type FocusEvent } from 'react';
import type { FieldDef } from '../../core/sport/profile.ts';
import { typedText } from '../../core/sport/typed.ts';
import type { BoardField } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { tip } from '../../ui/tip.ts';
import { later } from '../../ui/Later.tsx';
import { useKeys } from '../../ui/keys.ts';
import type { Desk } from '../shared/desk.ts';
import { useDesk, useField } from '../shared/use-desk.ts';
import { Digits, valueText } from '../shared/Digits.tsx';
import { pinOrHold, stepField } from './held.ts';
import type { Trail } from '../shared/trace/trail.ts';
import { Step, TraceSteps } from '../shared/trace/TraceSteps.tsx';
import { useCommands, useKeyOf } from '../shared/keymap.ts';
import css from '../shared/trace/TraceSteps.module.css';

/** A field of which nothing is known yet. */
const NOT_YET: Pick<BoardField, 'value' | 'pin'> = { value: null };

// Few fields are choices: their list comes when one is looked at.
const Suggest = later(() => import('../../ui/ComboBox.tsx').then((m) => m.Suggest));

interface Props {
  desk: Desk;
  def: FieldDef;
  trail: Trail;
}

/** One field: hold it by a pin, let it go, and see why it says what it says, from the bytes to the picture. */
export function TracePanel({ desk, def, trail }: Props) {
  const trace = useDesk(desk, (s) => s.trace);
  const field = useField(desk, def.key) ?? NOT_YET;
  const now = desk.link.serverNow;
  const [text, setText] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const { pin } = field;
  const pinned = pin !== undefined;

  const hold = async () => {
    const answer = await pinOrHold(desk, def.key, text ?? current());
    if (!answer.ok) return;
    setText(null);
    input.current?.blur();
  };
  const current = () => typedText(pin ? pin.value : field.value);
  const onFocus = () => setText(current());
  const onBlur = (event: FocusEvent<HTMLInputElement>) => {
    if (!event.currentTarget.form?.contains(event.relatedTarget)) setText(null);
  };
  const release = () => void desk.act({ kind: 'release', field: def.key });
  const keyOf = useKeyOf();
  useKeys({ escape: trail.close });
  useCommands({
    pin: () => {
      input.current?.focus();
      input.current?.select();
    },
    ...(pinned ? { release } : {}),
    ...(def.kind === 'integer'
      ? { up: () => stepField(desk, def, 1), down: () => stepField(desk, def, -1) }
      : {}),
  });

  return (
    <section className={css['panel']} aria-label={`Trace of ${def.label}`}>
      <header className={css['head']}>
        <h2>{def.label}</h2>
        <strong>
          <Digits def={def} value={pin ? pin.value : field.value} now={now} />
        </strong>
        {pin && <span className={css['pinned']}>pinned</span>}
        {def.kind === 'integer' &&
          ([-1, 1] as const).map((by) => (
            <Button
              key={by}
              aria-label={`${def.label} ${by < 0 ? 'down' : 'up'}`}
              {...tip(`${by < 0 ? 'Down' : 'Up'} · ${keyOf(by < 0 ? 'down' : 'up')}`)}
              onClick={() => stepField(desk, def, by)}
            >
              {by < 0 ? '−' : '+'}
            </Button>
          ))}
        <form
          className={css['pin']}
          onSubmit={(event) => {
            event.preventDefault();
            void hold();
          }}
        >
          {def.kind === 'choice' ? (
            <Suggest
              {...{
                inputRef: input,
                label: `Hold ${def.label} at`,
                value: text ?? current(),
                onFocus,
                onBlur,
              }}
              suggestions={def.choices.map((value) => ({ value }))}
              onChange={setText}
            />
          ) : (
            <input
              {...{ ref: input, value: text ?? current(), onFocus, onBlur }}
              aria-label={`Hold ${def.label} at`}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === 'Escape') event.currentTarget.blur();
              }}
            />
          )}
          <Button type="submit" shortcut={keyOf('pin')}>
            Pin
          </Button>
        </form>
        <Button shortcut={keyOf('release')} onClick={release} disabled={!pinned}>
          Release
        </Button>
      </header>
      <TraceSteps trace={trace} onTrace={trail.go}>
        <Step name="Field">
          {trace?.origin ? (
            <>
              {trace.origin} says <Digits def={def} value={field.value} now={now} />
            </>
          ) : (
            trace && 'nothing was said yet'
          )}
          {pin && (
            <>
              {' '}
              · <b className={css['pinned']}>held at {valueText(def, pin.value, now())}</b>
            </>
          )}
        </Step>
      </TraceSteps>
    </section>
  );
}
