import Check from 'lucide-react/icons/check';
import { deliveryOf, readingsOf, type SourceBundle } from '../../core/source/source.ts';
import css from './Steps.module.css';

interface Props {
  bundle: SourceBundle;
  /** It has been saved as it stands. */
  kept: boolean;
  /** Something has come from it. */
  heard: boolean;
}

/** The way from nothing to values on the board, and where on it a source is; nothing once it has been gone. */
export function Steps({ bundle, kept, heard }: Props) {
  const { source, map, document, patch } = bundle;
  const delivery = deliveryOf(source.transport);
  if (delivery === 'hand') return null;
  const named = readingsOf({ map, document }).length + (document?.tables.length ?? 0) > 0;
  // A table stands on the board by itself; readings have to be told where to.
  const feeds = (patch?.links.length ?? 0) + (document?.tables.length ?? 0) > 0;
  const steps = [
    { name: 'Reach it', done: heard },
    ...(delivery === 'bytes' ? [{ name: 'Find its frames', done: map !== null || document !== null }] : []),
    { name: delivery === 'bytes' ? 'Label data' : 'Pick values and tables', done: named },
    { name: 'Say what they feed', done: feeds },
    { name: 'Save', done: feeds && kept },
  ];
  const at = steps.findIndex((s) => !s.done);
  if (at < 0 || (at === 0 && feeds)) return null;
  return (
    <ol className={css['steps']} aria-label="Steps">
      {steps.map((s, i) => (
        <li key={s.name} aria-current={i === at ? 'step' : undefined} data-done={s.done && i < at}>
          <span>{s.done && i < at ? <Check size={13} aria-label="done" /> : i + 1}</span>
          {s.name}
        </li>
      ))}
    </ol>
  );
}
