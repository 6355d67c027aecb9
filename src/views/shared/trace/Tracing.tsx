import { Button } from '../../../ui/Button.tsx';
import { useKeys } from '../../../ui/keys.ts';
import type { Desk } from '../desk.ts';
import { useDesk } from '../use-desk.ts';
import type { Trail } from './trail.ts';
import { Step, TraceSteps } from './TraceSteps.tsx';
import css from './TraceSteps.module.css';

/** Why one thing says what it says, with a way back to what was traced before. */
export function Tracing({ desk, trail }: { desk: Desk; trail: Trail }) {
  const trace = useDesk(desk, (s) => s.trace);
  useKeys({ escape: trail.close });
  return (
    <section className={css['panel']} aria-label={`Trace of ${trace?.name ?? ''}`}>
      <header className={css['head']}>
        <h2>{trace?.name ?? 'Tracing…'}</h2>
        <strong>{trace && (trace.says || 'blank')}</strong>
        {trail.back && (
          <Button onClick={trail.back} aria-label="Back to what was traced before">
            Back
          </Button>
        )}
        <Button shortcut="Esc" onClick={trail.close}>
          Close
        </Button>
      </header>
      <TraceSteps trace={trace} onTrace={trail.go}>
        {trace?.origin && <Step name="From">{trace.origin}</Step>}
      </TraceSteps>
    </section>
  );
}
