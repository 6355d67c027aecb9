import { useMemo } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { Template } from '../../core/documents/template.ts';
import { layoutFor } from '../../core/show/layout.ts';
import type { Zone } from '../../core/show/show.ts';
import { useLoaded } from '../../ui/loaded.ts';
import { tip } from '../../ui/tip.ts';
import type { Desk } from '../shared/desk.ts';
import { useDesk } from '../shared/use-desk.ts';
import css from './LaneView.module.css';

// What reads formulas is large, and taking needs none of it: it comes after the first view.
const loadChecks = () => import('../../core/show/preflight.ts');

/** What the audience would see wrong if the item were taken now. */
export function Warnings({
  desk,
  zone,
  template,
  inputs,
  misfits,
  all = false,
}: {
  desk: Desk;
  zone: Zone;
  template: Template | undefined;
  inputs: Record<string, Scalar>;
  /** What the preview says of texts that do not fit as they should. */
  misfits: readonly string[];
  /** All of it is shown, one under another; else the first, and how many there are. */
  all?: boolean;
}) {
  const fields = useDesk(desk, (s) => s.fields);
  const checks = useLoaded(loadChecks);
  const checked = useMemo(
    () =>
      !template
        ? []
        : (checks?.preflight(layoutFor(template, zone), inputs, template.inputs, desk) ?? ['Checking…']),
    // The board is read through the desk; its fields are what makes the answer change.
    // oxlint-disable-next-line react/exhaustive-deps
    [template, JSON.stringify(inputs), fields, desk, checks],
  );
  const warnings = [...checked, ...misfits];
  if (all)
    return (
      <ul className={css['all']} aria-label="What would be seen wrong">
        {warnings.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    );
  return (
    <p className={css['warnings']} aria-live="polite" {...tip(warnings.join('\n'))}>
      {warnings[0]}
      {warnings.length > 1 && ` (+${warnings.length - 1})`}
    </p>
  );
}
