import type { Item } from '../../core/show/item.ts';
import { Button } from '../../ui/Button.tsx';
import { tip } from '../../ui/tip.ts';
import type { Desk } from '../shared/desk.ts';
import { Question } from '../shared/Question.tsx';
import { useCommands, useKeyOf } from '../shared/keymap.ts';
import { itemName } from '../shared/rundown.ts';
import { useDesk } from '../shared/use-desk.ts';
import type { useDraft } from './drafts.ts';
import { holdEdits } from './held.ts';

/** Edits collect, and go out together in one picture or are thrown away: of fields, and of what items are filled in with. */
export function HoldEdits({
  desk,
  draft,
  items,
}: {
  desk: Desk;
  draft: ReturnType<typeof useDraft>;
  items: readonly Item[];
}) {
  const held = useDesk(desk, (s) => s.held);
  const keyOf = useKeyOf();
  const filled = held ? draft.all.filter(([, inputs]) => Object.keys(inputs).length > 0) : [];
  const some = (held?.size ?? 0) + filled.length > 0;
  const turn = () => {
    if (!some) holdEdits(desk, held === null);
  };
  useCommands({ 'hold-edits': turn });
  const discard = () => {
    draft.discard();
    holdEdits(desk, true);
  };
  const send = async () => {
    const answer = await desk.act({
      kind: 'send-edits',
      fields: [...(held ?? [])].map(([field, text]) => ({ field, text })),
      items: filled.map(([item, inputs]) => ({ item, inputs })),
    });
    if (answer.ok) discard();
  };
  return (
    <>
      <Button
        shortcut={keyOf('hold-edits')}
        aria-pressed={held !== null}
        disabled={some}
        onClick={turn}
        {...tip('Edits collect, and go out together')}
      >
        Hold edits
      </Button>
      {some && (
        <Question
          label="Held edits"
          heading="Not sent yet"
          says={[
            ...[...held!].map(([key, text]) => `${desk.def(key)?.label ?? key}: ${text || 'blank'}`),
            ...filled.map(([key]) => itemName(items, key)),
          ].join('; ')}
          yes="Send together"
          yesKey="Enter"
          no="Discard"
          onYes={() => void send()}
          onNo={discard}
        />
      )}
    </>
  );
}
