import { useState } from 'react';
import { ComboBox as Base, Input, ListBox, ListBoxItem, Popover } from 'react-aria-components';
import css from './ComboBox.module.css';

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
  /** The few that are like what is typed. */
  find: (typed: string) => readonly T[];
  idOf: (item: T) => string;
  nameOf: (item: T) => string;
  onChoose: (id: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const found = find(typed ?? '');
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
      <Popover className={css['list']!}>
        <ListBox renderEmptyState={() => <p>Nothing matches.</p>}>
          {found.map((item) => (
            <ListBoxItem key={idOf(item)} id={idOf(item)} textValue={nameOf(item)} className={css['item']!}>
              {nameOf(item)}
            </ListBoxItem>
          ))}
        </ListBox>
      </Popover>
    </Base>
  );
}
