import { useState } from 'react';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { tip } from '../../ui/tip.ts';
import { Question } from '../shared/Question.tsx';
import { useCommands, useKeyOf } from '../shared/keymap.ts';
import { itemName } from '../shared/rundown.ts';
import type { Seen } from '../shared/View.tsx';
import { placeName } from '../shared/zones.ts';

/** Takes off all that is on air, by two keys: the first asks and says what goes, another does it. */
export function ClearAll({ desk, snapshot }: Seen) {
  const { lanes, documents } = snapshot;
  const [asked, ask] = useState(false);
  const keyOf = useKeyOf();
  const on = lanes.filter((l) => l.onAir);
  useCommands({ 'clear-all': () => ask(on.length > 0) });
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
        <Question
          label="Clear all?"
          heading={`Clear all that is on air, ${counted(on.length, 'zone')}?`}
          says={on.map(
            (l) => `${placeName(documents.output, l)}: ${itemName(documents.item, l.onAir!.item)}`,
          )}
          yes="Clear all"
          yesKey="Enter"
          no="Leave it"
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
