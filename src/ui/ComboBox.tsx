import { useState, type ReactNode } from 'react';
import {
  ComboBox as Base,
  Input,
  ListBox,
  ListBoxItem,
  ListLayout,
  Popover,
  Virtualizer,
} from 'react-aria-components';
import css from './ComboBox.module.css';

/** How high one of the list is, and how much of a long list is in sight, in px. */
const ROW = 30;
const IN_SIGHT = 300;

/** What is found, drawn only where it is seen: a list of any length is all there. */
function Found<T>({
  found,
  idOf,
  nameOf,
  empty,
}: {
  found: readonly T[];
  idOf: (item: T) => string;
  nameOf: (item: T) => string;
  empty: ReactNode;
}) {
  return (
    <Popover className={css['popover']!}>
      <Virtualizer layout={ListLayout} layoutOptions={{ rowHeight: ROW }}>
        <ListBox
          className={css['list']!}
          style={{ height: Math.min(IN_SIGHT, Math.max(1, found.length) * ROW) }}
          renderEmptyState={() => <p>{empty}</p>}
        >
          {found.map((item) => (
            <ListBoxItem key={idOf(item)} id={idOf(item)} textValue={nameOf(item)} className={css['item']!}>
              {nameOf(item)}
            </ListBoxItem>
          ))}
        </ListBox>
      </Virtualizer>
    </Popover>
  );
}

/** Chooses one of many by typing a part of what it is called. */
export function ComboBox<T>({
  label,
  chosen,
  placeholder,
  find,
  idOf,
  nameOf,
  onChoose,
}: {
  label: string;
  /** What is chosen, in the words in which it stands in the box. */
  chosen: string;
  placeholder: string;
  /** Those that are like what is typed. */
  find: (typed: string) => readonly T[];
  idOf: (item: T) => string;
  nameOf: (item: T) => string;
  onChoose: (id: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Base
      aria-label={label}
      inputValue={typed ?? chosen}
      onInputChange={(text) => setTyped(text)}
      onSelectionChange={(id) => {
        if (id !== null) onChoose(String(id));
        setTyped(null);
      }}
      onOpenChange={(open) => {
        if (!open) setTyped(null);
      }}
      defaultFilter={() => true}
      menuTrigger="focus"
      allowsEmptyCollection
      className={css['combo']!}
    >
      <Input placeholder={placeholder} onFocus={(e) => e.target.select()} />
      <Found found={find(typed ?? '')} idOf={idOf} nameOf={nameOf} empty="Nothing matches." />
    </Base>
  );
}

/** One that may be chosen where anything may be typed. */
export interface Suggestion {
  /** What then stands in the box. */
  value: string;
  /** What it is, where the value does not say so. */
  name?: string;
}

const nameOf = ({ value, name }: Suggestion) => name ?? value;

/** Enter with nothing of the open list under the keys is meant for the form, as in any text box. */
function enterSubmits({ key, currentTarget: box }: React.KeyboardEvent<HTMLInputElement>): void {
  if (
    key !== 'Enter' ||
    box.getAttribute('aria-expanded') !== 'true' ||
    box.hasAttribute('aria-activedescendant')
  )
    return;
  box.form?.requestSubmit();
}

/** A text box that knows what is usually meant: anything may be typed, and what is like it is offered. */
export function Suggest({
  label,
  value,
  suggestions,
  onChange,
  onFocus,
  onBlur,
  inputRef,
  ...box
}: {
  label: string;
  value: string;
  suggestions: readonly Suggestion[];
  onChange: (value: string) => void;
  onFocus?: (event: React.FocusEvent<HTMLInputElement>) => void;
  onBlur?: (event: React.FocusEvent<HTMLInputElement>) => void;
  inputRef?: React.Ref<HTMLInputElement>;
  placeholder?: string;
  size?: number;
  maxLength?: number;
}) {
  // What stands there is not what is looked for: until something is typed, all are offered.
  const [typed, setTyped] = useState(false);
  // A form may have many such boxes: only the one that is at hand has its list.
  const [here, setHere] = useState(false);
  const words = typed ? value.toLowerCase().trim() : '';
  const found = here
    ? suggestions.filter((s) => `${s.value} ${s.name ?? ''}`.toLowerCase().includes(words))
    : [];
  return (
    <Base
      aria-label={label}
      inputValue={value}
      onInputChange={(text) => {
        if (text === value) return;
        setTyped(true);
        onChange(text);
      }}
      onSelectionChange={(id) => {
        if (id !== null) onChange(String(id));
        setTyped(false);
      }}
      onOpenChange={(open) => {
        if (!open) setTyped(false);
      }}
      defaultFilter={() => true}
      allowsCustomValue
      className={css['combo']!}
    >
      <Input
        {...box}
        {...(inputRef ? { ref: inputRef } : {})}
        onFocus={(event) => {
          setHere(true);
          onFocus?.(event);
        }}
        onBlur={(event) => {
          setHere(false);
          onBlur?.(event);
        }}
        onKeyDown={enterSubmits}
      />
      <Found found={found} idOf={(s) => s.value} nameOf={nameOf} empty="Nothing like it is known." />
    </Base>
  );
}
