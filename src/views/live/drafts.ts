import { useCallback, useEffect, useRef, useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { Item } from '../../core/show/item.ts';
import { useStable } from '../../ui/stable.ts';
import type { Answer, Desk } from '../shared/desk.ts';

type Inputs = Record<string, Scalar>;

/** How long typing must pause before it is sent, in ms. */
const PAUSE = 150;

/**
 * An item's inputs as they are being edited here. What is typed shows at once, is sent after a short pause, and
 * gives way to the server's word once that has it. What the server refused stays on the screen, unsaved.
 */
export function useDraft(desk: Desk, item: Item | undefined, held = false) {
  const [drafts, setDrafts] = useState<Record<string, Inputs>>({});
  const pending = useRef(new Map<string, Inputs>());
  const sending = useRef<Promise<Answer | null>>(Promise.resolve(null));
  /** The items of which the server refused what was typed last: it stands on the screen and nowhere else. */
  const refused = useRef(new Set<string>());
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);

  /** Sends what is not yet sent; resolves when the server has answered. */
  const flush = useCallback((): Promise<Answer | null> => {
    clearTimeout(timer.current);
    const batch = [...pending.current];
    pending.current.clear();
    for (const [id, inputs] of batch) {
      sending.current = sending.current.then(async () => {
        const answer = await desk.act({ kind: 'edit', item: id, inputs }, true);
        if (!answer.ok) refused.current.add(id);
        else {
          refused.current.delete(id);
          setDrafts((all) => {
            const left = Object.entries(all[id] ?? {}).filter(([k, v]) => !(k in inputs) || inputs[k] !== v);
            return { ...all, [id]: Object.fromEntries(left) };
          });
        }
        return answer;
      });
    }
    return sending.current;
  }, [desk]);

  // What is held back is not sent by leaving.
  const leave = useStable(() => {
    if (!held) void flush();
  });
  useEffect(() => leave, [leave]);

  // What was refused stays on the screen: what would be taken is not what is seen, and that is said.
  const isSaved = useStable(async ({ key, name }: Pick<Item, 'key' | 'name'>): Promise<boolean> => {
    await flush();
    if (!refused.current.has(key)) return true;
    desk.store.setState({
      said: { ok: false, text: `What was typed for ${name} was refused: mend that first.` },
    });
    return false;
  });
  useEffect(() => desk.heed(isSaved), [desk, isSaved]);

  const edit = (inputs: Inputs) => {
    if (!item) return;
    const { key: id } = item;
    setDrafts((all) => ({ ...all, [id]: { ...all[id], ...inputs } }));
    pending.current.set(id, { ...pending.current.get(id), ...inputs });
    clearTimeout(timer.current);
    // Held back, it waits to be sent with all else.
    if (!held) timer.current = setTimeout(() => void flush(), PAUSE);
  };
  const draft = item ? (drafts[item.key] ?? {}) : {};
  return {
    inputs: { ...item?.inputs, ...draft } as Inputs,
    unsaved: Object.keys(draft).length > 0,
    edit,
    /** All that is not sent yet, by the items. */
    all: Object.entries(drafts),
    discard: () => {
      clearTimeout(timer.current);
      pending.current.clear();
      refused.current.clear();
      setDrafts({});
    },
  };
}
