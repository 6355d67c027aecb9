import { useState, type ReactNode } from 'react';
import { isClock } from '../../core/board/values.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { typedText } from '../../core/sport/typed.ts';
import type { BoardField, SourceState } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import type { Desk } from './desk.ts';
import { useDesk, useKnown } from './use-desk.ts';
import { Digits } from './Digits.tsx';
import css from './Pad.module.css';

const GROUPS = [
  ['clocks', 'Clocks'],
  ['situation', 'Situation'],
  ['home', 'Home'],
  ['away', 'Away'],
] as const;

interface Props {
  desk: Desk;
  /** The source that this pad is. */
  source: string;
  state: SourceState | undefined;
  defs: readonly FieldDef[];
}

/**
 * A pad that stands in for a controller: every score, clock, period, possession and penalty of the sport. Each press
 * starts from what the board says, so it carries on where a device fell silent.
 */
export function Pad({ desk, source, state, defs }: Props) {
  const fields = useDesk(desk, (s) => s.fields);
  // A field that a live source feeds cannot be set here.
  const sources = useKnown(desk, 'sources');
  const mine = defs.filter((d) => !['text', 'colour', 'picture'].includes(d.kind));
  const clock = mine.find((d) => d.kind === 'clock');
  const act = (field: string, what: 'set' | 'add' | 'start' | 'stop', text?: string) =>
    void desk.act({ kind: 'hand', source, field, do: what, ...(text === undefined ? {} : { text }) });
  /** The live device that feeds a field. */
  const feeder = (key: string) => {
    const origin = fields.get(key)?.origin;
    return sources.find((s) => s.key === origin && s.key !== source && s.health === 'live')?.name;
  };
  const runs = (key: string) => {
    const value = fields.get(key)?.value;
    return isClock(value) && value.running;
  };
  const add = (label: RegExp, by: string) => () => {
    const def = mine.find((d) => d.kind === 'integer' && label.test(d.key));
    if (def) act(def.key, 'add', by);
  };
  useKeys({
    ...(clock ? { ' ': () => act(clock.key, runs(clock.key) ? 'stop' : 'start') } : {}),
    h: add(/^home\.score$/, '1'),
    a: add(/^away\.score$/, '1'),
  });
  const holds = new Set(state?.holds);
  return (
    <div className={css['pad']} role="group" aria-label="Pad">
      {GROUPS.map(([group, label]) => {
        const defsHere = mine.filter((d) => d.group === group);
        return (
          defsHere.length > 0 && (
            <section key={group} className={css['group']}>
              <h3>{label}</h3>
              {defsHere.map((def) => (
                <div key={def.key} className={css['row']} data-pad={def.key} data-held={holds.has(def.key)}>
                  <span>
                    {def.label}
                    {feeder(def.key) && <em>{feeder(def.key)}</em>}
                  </span>
                  <strong>
                    <Digits def={def} value={fields.get(def.key)?.value ?? null} now={desk.link.serverNow} />
                  </strong>
                  <Control
                    def={def}
                    value={fields.get(def.key)?.value ?? null}
                    running={runs(def.key)}
                    first={def === clock}
                    disabled={feeder(def.key) !== undefined}
                    act={(what, text) => act(def.key, what, text)}
                  />
                </div>
              ))}
            </section>
          )
        );
      })}
      <p className={css['hint']}>
        A press counts where no device speaks for the field; what this pad holds is marked. When the device is
        back it takes its fields again, as its own line says.
      </p>
    </div>
  );
}

interface ControlProps {
  def: FieldDef;
  value: BoardField['value'];
  running: boolean;
  first: boolean;
  disabled: boolean;
  act: (what: 'set' | 'add' | 'start' | 'stop', text?: string) => void;
}

function Control({ def, value, running, first, disabled, act }: ControlProps) {
  const [text, setText] = useState<string | null>(null);
  /** What sets the value by typing it, with keys beside it. */
  const typedOr = (keys: ReactNode) => (
    <form
      className={css['keys']}
      onSubmit={(event) => {
        event.preventDefault();
        if (text !== null) act('set', text);
        setText(null);
      }}
    >
      <input
        value={text ?? typedText(value)}
        aria-label={`Set ${def.label}`}
        size={6}
        disabled={disabled || running}
        onFocus={() => setText(typedText(value))}
        onBlur={() => setText(null)}
        onChange={(e) => setText(e.target.value)}
      />
      {keys}
    </form>
  );
  switch (def.kind) {
    case 'integer':
      return typedOr(
        <>
          <Button aria-label={`${def.label} down`} disabled={disabled} onClick={() => act('add', '-1')}>
            −1
          </Button>
          <Button
            aria-label={`${def.label} up`}
            disabled={disabled}
            shortcut={def.key === 'home.score' ? 'H' : def.key === 'away.score' ? 'A' : undefined}
            onClick={() => act('add', '1')}
          >
            +1
          </Button>
        </>,
      );
    case 'flag':
      return (
        <Button
          className={css['flag']}
          disabled={disabled}
          aria-pressed={value === true}
          onClick={() => act('set', value === true ? 'no' : 'yes')}
        >
          {value === true ? 'Yes' : 'No'}
        </Button>
      );
    case 'choice':
      return (
        <span className={css['keys']}>
          {def.choices.map((c) => (
            <Button
              key={c}
              disabled={disabled}
              aria-pressed={value === c}
              onClick={() => act('set', value === c ? '' : c)}
            >
              {c}
            </Button>
          ))}
        </span>
      );
    case 'clock':
      return typedOr(
        <>
          <Button
            disabled={disabled}
            main={first}
            shortcut={first ? 'Space' : undefined}
            aria-label={`${running ? 'Stop' : 'Start'} ${def.label}`}
            onClick={() => act(running ? 'stop' : 'start')}
          >
            {running ? 'Stop' : 'Start'}
          </Button>
        </>,
      );
    default:
      return null;
  }
}
