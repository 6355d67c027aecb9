import type { Item } from '../../core/show/item.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { tip } from '../../ui/tip.ts';
import type { Desk } from '../shared/desk.ts';
import { useCommands, useKeyOf } from '../shared/keymap.ts';
import { useDesk } from '../shared/use-desk.ts';
import type { useDraft } from './drafts.ts';
import { holdEdits } from './held.ts';
import shell from '../shared/View.module.css';

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
  const nameOf = (key: string) => items.find((i) => i.key === key)?.name ?? key;
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
        <Waiting
          says={[
            ...[...held!].map(([key, text]) => `${desk.def(key)?.label ?? key}: ${text || 'blank'}`),
            ...filled.map(([key]) => nameOf(key)),
          ]}
          onSend={() => void send()}
          onDiscard={discard}
        />
      )}
    </>
  );
}

function Waiting({ says, onSend, onDiscard }: { says: string[]; onSend: () => void; onDiscard: () => void }) {
  useKeys({ enter: onSend, escape: onDiscard }, true);
  return (
    <div className={shell['armed']} role="status" aria-label="Held edits">
      <p>
        <b>Not sent yet</b>
        <span>{says.join('; ')}</span>
      </p>
      <Button main shortcut="Enter" onClick={onSend}>
        Send together
      </Button>
      <Button shortcut="Esc" onClick={onDiscard}>
        Discard
      </Button>
    </div>
  );
}
