import { useMemo, useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import { later } from '../../ui/Later.tsx';
import type { Seen } from '../shared/View.tsx';
import { Properties, type Picked } from './Properties.tsx';
import css from './WorkshopView.module.css';

const Tabs = later(() => import('../../ui/Tabs.tsx').then((m) => m.Tabs));
const InputsPanel = later(() => import('./InputsPanel.tsx').then((m) => m.InputsPanel));
const FitList = later(() => import('./FitList.tsx').then((m) => m.FitList));

/** What stands beside the canvas: what is chosen, what the operator fills in, how all names fit. */
export function Side({
  snapshot,
  filled,
  onFill,
  onGo,
  ...picked
}: Picked &
  Pick<Seen, 'snapshot'> & {
    /** What is tried on the canvas. */
    filled: Record<string, Scalar>;
    onFill: (inputs: Record<string, Scalar>) => void;
    /** Leads to a layer. */
    onGo: (at: { layout: string; layer: string }) => void;
  }) {
  const { desk, work, layout } = picked;
  // Kept here: another tab draws nothing else anew.
  const [side, setSide] = useState<'properties' | 'inputs' | 'fit'>('properties');
  const { doc: template } = work;
  const alone = useMemo(() => [template], [template]);
  return (
    <aside className={css['right']} aria-label="Properties">
      <Tabs
        label="What is shown here"
        tabs={[
          { key: 'properties', name: 'Properties' },
          { key: 'inputs', name: template.inputs.length ? `Inputs (${template.inputs.length})` : 'Inputs' },
          { key: 'fit', name: 'Fit' },
        ]}
        chosen={side}
        onChoose={(key) => setSide(key as typeof side)}
      >
        {side === 'fit' ? (
          <FitList
            desk={desk}
            snapshot={snapshot}
            templates={alone}
            onGo={(at) => {
              onGo(at);
              setSide('properties');
            }}
          />
        ) : side === 'inputs' ? (
          <InputsPanel desk={desk} work={work} layout={layout} filled={filled} onFill={onFill} />
        ) : (
          <Properties {...picked} onHandedOver={() => setSide('inputs')} />
        )}
      </Tabs>
    </aside>
  );
}
