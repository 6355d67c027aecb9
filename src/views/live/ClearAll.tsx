import { useState } from 'react';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { tip } from '../../ui/tip.ts';
import { useCommands, useKeyOf } from '../shared/keymap.ts';
import type { Seen } from '../shared/View.tsx';
import { placeName } from '../shared/zones.ts';
import shell from '../shared/View.module.css';

/** Takes off all that is on air, by two keys: the first asks and says what goes, another does it. */
export function ClearAll({ desk, snapshot }: Seen) {
  const { lanes, documents } = snapshot;
  const [asked, ask] = useState(false);
  const keyOf = useKeyOf();
  const on = lanes.filter((l) => l.onAir);
  useCommands({ 'clear-all': () => ask(on.length > 0) });
  const nameOf = (key: string) => documents.item.find((i) => i.key === key)?.name ?? key;
  return (
    <>
      <Button
        aria-label="Clear all"
        disabled={on.length === 0}
        onClick={() => ask(true)}
        {...tip(`Clear all: asks once more · ${keyOf('clear-all')}`)}
      >
        Clear all…
      </Button>
      {asked && on.length > 0 && (
        <Asked
          count={on.length}
          says={on.map((l) => `${placeName(documents.output, l)}: ${nameOf(l.onAir!.item)}`)}
          onNo={() => ask(false)}
          onYes={() => {
            ask(false);
            void desk.act({ kind: 'clear-all' });
          }}
        />
      )}
    </>
  );
}

function Asked({
  count,
  says,
  onYes,
  onNo,
}: {
  count: number;
  says: string[];
  onYes: () => void;
  onNo: () => void;
}) {
  useKeys({ enter: onYes, escape: onNo }, true);
  return (
    <div className={shell['armed']} role="status" aria-label="Clear all?">
      <p>
        <b>Clear all that is on air, {counted(count, 'zone')}?</b>
        <span>{says.join('; ')}</span>
      </p>
      <Button main shortcut="Enter" onClick={onYes}>
        Clear all
      </Button>
      <Button shortcut="Esc" onClick={onNo}>
        Leave it
      </Button>
    </div>
  );
}
