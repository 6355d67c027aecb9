import { isByHand } from '../../core/source/source.ts';
import { isClock, type FieldValue } from '../../core/board/values.ts';
import { clockAt, clockText } from '../../core/clock/clock.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { LiveRegion } from '../../ui/LiveRegion.tsx';
import type { Desk, Prepared } from './desk.ts';
import { useCommands, useKeyOf } from './keymap.ts';
import { useSeconds } from './time.ts';
import { useDesk, useField } from './use-desk.ts';
import { tip } from '../../ui/tip.ts';
import css from './StatusLine.module.css';

/** The pad that stands in for a device, if one is in use. */
export const padOf = (desk: Prepared) =>
  desk.bundles.find((b) => isByHand(b.source) && b.source.enabled)?.source ?? null;

/**
 * When the device that runs the clock fell silent: one key runs it by hand from its last certain value, and the same
 * key stops it. When it is back, one key returns control to it, with both values in sight.
 */
export function HandOverNotice({ desk, snapshot }: { desk: Desk; snapshot: Prepared }) {
  const pad = padOf(snapshot);
  const clock = snapshot.defs.find((d) => d.kind === 'clock');
  const field = useField(desk, clock?.key);
  const held = pad !== null && field?.origin === pad.key && field.quality === 'ok';
  // Only where a device had it: a game kept by hand from the start is kept on the pad.
  const devices = snapshot.bundles.some((b) => b.patch?.links.some((l) => l.field === clock?.key));
  const orphaned = field !== undefined && (field.quality === 'late' || field.quality === 'lost');
  const wanted = pad !== null && clock !== undefined && devices && (held || orphaned);
  const runs = isClock(field?.value) && field.value.running;
  const back = useDesk(desk, (s) => s.desk!.sources.find((x) => x.waiting.length > 0));
  const press = () => {
    if (wanted)
      void desk.act({ kind: 'hand', source: pad.key, field: clock.key, do: runs ? 'stop' : 'start' });
  };
  const giveBack = () => {
    if (back) void desk.act({ kind: 'give-back', source: back.key });
  };
  const keyOf = useKeyOf();
  useCommands({ ...(wanted ? { 'by-hand': press } : {}), ...(back ? { 'give-back': giveBack } : {}) });
  if (!wanted && !back) return null;
  return (
    <>
      {back && (
        <div className={css['uneasy']} role="group" aria-label="Return control">
          <LiveRegion label="Return of a source" text={`${back.name} is back.`} />
          <Returning desk={desk} source={back} first={clock?.key} />
          <Button main shortcut={keyOf('give-back')} onClick={giveBack}>
            Return control
          </Button>
        </div>
      )}
      {wanted && (
        <p className={css[held ? 'uneasy' : 'bad']} role="status" aria-label="Clock by hand">
          {held && !back ? 'By hand ' : ''}
          <Button main={!held} shortcut={keyOf('by-hand')} onClick={press}>
            {runs ? 'Stop clock' : held ? 'Start clock' : 'Run clock by hand'}
          </Button>
        </p>
      )}
    </>
  );
}

/** A source that is back, with a field that waits for it: what shows now, and what it says. */
function Returning({ desk, source, first }: { desk: Desk; source: SourceState; first: string | undefined }) {
  const now = useSeconds(desk.link.serverNow);
  const words = (value: FieldValue) =>
    isClock(value) ? clockText(clockAt(value, now)) : value === null ? 'blank' : String(value);
  const shown = source.waiting.find((w) => w.field === first) ?? source.waiting[0]!;
  return (
    <span {...tip(source.waiting.map((w) => desk.def(w.field)?.label ?? w.field).join(', '))}>
      {source.name} is back: {shown.field === first ? '' : `${desk.def(shown.field)?.label ?? shown.field} `}
      {words(shown.back)}, here {words(shown.held)}{' '}
    </span>
  );
}
