import { useEffect } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { useKeys } from '../../ui/keys.ts';
import { useStable } from '../../ui/stable.ts';

/** What a key does on the live view: in words, the key that it has until somebody changes it, and what it goes with. */
export const COMMANDS = {
  take: { says: 'Take what is next in the lane', key: 'Enter', of: 'Lane' },
  clear: { says: 'Clear the lane', key: 'Delete', of: 'Lane' },
  follow: { says: 'Take what follows: the queue, or the next one down', key: 'N', of: 'Lane' },
  back: { says: 'Back to what was on before', key: 'B', of: 'Lane' },
  queue: { says: 'Add the chosen item to the queue', key: '+', of: 'Lane' },
  'item-up': { says: 'Choose the item above', key: 'ArrowUp', of: 'Lane' },
  'item-down': { says: 'Choose the item below', key: 'ArrowDown', of: 'Lane' },
  'lane-up': { says: 'The lane above', key: 'ArrowLeft', of: 'Lane' },
  'lane-down': { says: 'The lane below', key: 'ArrowRight', of: 'Lane' },
  quiet: { says: 'Quiet: boards in the venue change without motion', key: 'M', of: 'On air' },
  'clear-all': { says: 'Clear all (asks once more)', key: 'Ctrl+Delete', of: 'On air' },
  undo: { says: 'Undo', key: 'Ctrl+Z', of: 'On air' },
  redo: { says: 'Redo', key: 'Ctrl+Y', of: 'On air' },
  zones: { says: 'Show or hide the zones in the picture', key: 'Z', of: 'View' },
  'by-hand': { says: 'Clock by hand, or wait, where a controller is lost', key: 'K', of: 'Board' },
  'give-back': { says: 'Return control to a source that is back', key: 'G', of: 'Board' },
  'hold-edits': { says: 'Hold edits back, to send them together', key: 'X', of: 'Board' },
  find: { says: 'Find a field', key: '/', of: 'Board' },
  up: { says: 'The chosen number one up', key: '=', of: 'Board' },
  down: { says: 'The chosen number one down', key: '-', of: 'Board' },
  pin: { says: 'Pin the chosen field', key: 'P', of: 'Board' },
  release: { says: 'Release the chosen field', key: 'R', of: 'Board' },
} as const satisfies Record<string, { says: string; key: string; of: string }>;

export type CommandId = keyof typeof COMMANDS;
type Keys = Partial<Record<CommandId, string>>;

const PLACE = 'foothill.keymap';

/** The keys that were changed in this browser. */
const changed = createStore<Keys>(() => {
  try {
    return JSON.parse(localStorage.getItem(PLACE) ?? '{}') as Keys;
  } catch {
    return {};
  }
});

/** What can be done now, by its command: a palette shows it. */
const running = createStore<ReadonlyMap<CommandId, () => void>>(() => new Map());

const keyIn = (keys: Keys, id: CommandId): string => keys[id] ?? COMMANDS[id].key;

/** The key of a command. */
export function useKeyOf(): (id: CommandId) => string {
  const keys = useStore(changed);
  return (id) => keyIn(keys, id);
}

/** What a key is called on its cap. */
const CAPS: Record<string, string> = {
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Delete: 'Del',
  'Ctrl+Delete': 'Ctrl+Del',
};
export const capOf = (key: string): string => CAPS[key] ?? key;

/** The strokes of a lane's key, one after another, as they are written on a cap. */
export const strokes = (letter: string): string => Array.from(letter).join(' ');

/** Does commands by their keys while the view that has them is there. */
export function useCommands(commands: Partial<Record<CommandId, () => void>>): void {
  const keyOf = useKeyOf();
  const ids = Object.keys(commands) as CommandId[];
  useKeys(Object.fromEntries(ids.map((id) => [keyOf(id).toLowerCase(), commands[id]!])));
  const run = useStable((id: CommandId) => commands[id]?.());
  const joined = ids.join(' ');
  useEffect(() => {
    const mine = joined.split(' ').filter(Boolean) as CommandId[];
    running.setState((was) => new Map([...was, ...mine.map((id) => [id, () => run(id)] as const)]), true);
    return () => running.setState((was) => new Map([...was].filter(([id]) => !mine.includes(id))), true);
  }, [joined, run]);
}

/** The keys that do a command: nothing else can have them. */
export function useTakenKeys(): ReadonlySet<string> {
  const keys = useStore(changed);
  return new Set((Object.keys(COMMANDS) as CommandId[]).map((id) => keyIn(keys, id)));
}

/** What can be done now, by its command. */
export const useRunning = (): ReadonlyMap<CommandId, () => void> => useStore(running);

/** Gives a command another key in this browser; null: its own again. */
export function changeKey(id: CommandId, key: string | null): void {
  const { [id]: _, ...rest } = changed.getState();
  const next: Keys = key === null || key === COMMANDS[id].key ? rest : { ...rest, [id]: key };
  changed.setState(next, true);
  try {
    localStorage.setItem(PLACE, JSON.stringify(next));
  } catch {
    // Where nothing can be stored the change lasts as long as the page.
  }
}

/** The key that was pressed as commands have it; null for one that only goes with others, or that the browser wants. */
export function keyPressed({
  key,
  ctrlKey,
  metaKey,
  shiftKey,
  altKey,
}: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>): string | null {
  if (altKey || /^(Shift|Control|Alt|Meta|Tab|Dead|AltGraph|\d)$/.test(key)) return null;
  const name = key.length === 1 ? key.toUpperCase() : key;
  const letter = /^\p{L}$/u.test(key);
  const control = ctrlKey || metaKey;
  return `${control ? 'Ctrl+' : ''}${shiftKey && (control || letter) ? 'Shift+' : ''}${name}`;
}
