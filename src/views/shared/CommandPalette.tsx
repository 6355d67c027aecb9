import { Autocomplete, Input, Menu, MenuItem, SearchField, useFilter } from 'react-aria-components';
import { KeyCap } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import css from './CommandPalette.module.css';

/** Something that can be done by its name. */
export interface Doable {
  id: string;
  says: string;
  /** The key that does the same. */
  cap?: string | undefined;
  /** Where it leads. */
  href?: string;
  run?: () => void;
}

/** Everything that can be done here, found by typing; Enter does it, Escape leaves. */
export function CommandPalette({ doable, onClose }: { doable: readonly Doable[]; onClose: () => void }) {
  const { contains } = useFilter({ sensitivity: 'base' });
  const has = (text: string, typed: string) => typed.split(/\s+/).every((word) => contains(text, word));
  return (
    <Dialog title="Commands" onClose={onClose} actions={null}>
      <div className={css['palette']}>
        <Autocomplete filter={has}>
          <SearchField aria-label="Find a command" autoFocus>
            <Input className={css['box']!} placeholder="Find a command, an item, a look or a view" />
          </SearchField>
          <Menu
            aria-label="Commands"
            className={css['list']!}
            renderEmptyState={() => <p className={css['none']}>Nothing has these words.</p>}
            onAction={(key) => {
              onClose();
              // The dialog gives the focus back first: what is done may want it.
              setTimeout(() => doable.find((d) => d.id === key)?.run?.());
            }}
          >
            {doable.map(({ id, says, cap, href }) => (
              <MenuItem
                key={id}
                id={id}
                textValue={says}
                className={css['item']!}
                {...(href ? { href } : {})}
              >
                <span>{says}</span>
                {cap && <KeyCap>{cap}</KeyCap>}
              </MenuItem>
            ))}
          </Menu>
        </Autocomplete>
      </div>
    </Dialog>
  );
}
