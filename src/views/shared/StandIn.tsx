import { isClock } from '../../core/board/values.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import type { Desk, DeskState } from './desk.ts';
import css from './StatusLine.module.css';

/** The pad that stands in for a device, if one is in use. */
export const padOf = (desk: DeskSnapshot) =>
  desk.bundles.find((b) => b.source.transport.kind === 'hand' && b.source.enabled)?.source ?? null;

/**
 * When the device that runs the clock fell silent: one key runs it by hand from its last certain value, and the same
 * key stops it.
 */
export function StandIn({ desk, state }: { desk: Desk; state: DeskState }) {
  const pad = state.desk && padOf(state.desk);
  const clock = state.desk?.defs.find((d) => d.kind === 'clock');
  const field = clock && state.fields.get(clock.key);
  const held = pad !== null && field?.origin === pad.key && field.quality === 'ok';
  // Only where a device had it: a game kept by hand from the start is kept on the pad.
  const devices =
    state.desk?.bundles.some((b) => b.patch?.links.some((l) => l.field === clock?.key)) ?? false;
  const orphaned = field !== undefined && (field.quality === 'late' || field.quality === 'lost');
  const wanted = pad !== null && clock !== undefined && devices && (held || orphaned);
  const runs = isClock(field?.value) && field.value.running;
  const press = () => {
    if (wanted)
      void desk.act({ kind: 'hand', source: pad.key, field: clock.key, do: runs ? 'stop' : 'start' });
  };
  useKeys(wanted ? { k: press } : {});
  if (!wanted) return null;
  return (
    <p className={css[held ? 'uneasy' : 'bad']} role="status" aria-label="Clock by hand">
      {held ? `${clock.label} by hand. ` : ''}
      <Button main={!held} shortcut="K" onClick={press}>
        {runs ? 'Stop the clock' : held ? 'Start the clock' : 'Run the clock by hand'}
      </Button>
    </p>
  );
}
