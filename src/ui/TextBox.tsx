import { useRef, useState } from 'react';

/**
 * A text that is taken when its box is left, or at Enter; Escape goes back to what stood there. Left empty where it must not be,
 * it stays as it was.
 */
export function TextBox({
  label,
  value,
  most,
  needed = false,
  lines = 1,
  placeholder,
  begun = false,
  onChange,
}: {
  /** What it is called where no words stand beside it. */
  label?: string;
  value: string;
  /** How many characters it may have. */
  most: number;
  needed?: boolean;
  /** With more than one, Enter begins another. */
  lines?: number;
  placeholder?: string;
  /** It is there because it is to be changed: the keys are in it at once, and what is typed takes the place of what stands. */
  begun?: boolean;
  onChange: (text: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const given = useRef(false);
  const shared = {
    value: typed ?? value,
    maxLength: most,
    placeholder,
    autoFocus: begun,
    onFocus: begun ? (e: { target: { select: () => void } }) => e.target.select() : undefined,
    'aria-label': label,
    onChange: (e: { target: { value: string } }) => setTyped(e.target.value),
    onKeyDown: (e: React.KeyboardEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      if (e.key !== 'Escape' && (e.key !== 'Enter' || lines > 1)) return;
      e.stopPropagation();
      given.current = e.key === 'Escape';
      e.currentTarget.blur();
    },
    onBlur: () => {
      const text = lines > 1 ? typed : typed?.trim();
      setTyped(null);
      if (!given.current && text !== undefined && text !== null && text !== value && (text || !needed))
        onChange(text);
      given.current = false;
    },
  };
  return lines > 1 ? <textarea rows={lines} {...shared} /> : <input {...shared} />;
}
