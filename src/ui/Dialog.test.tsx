// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { expect, it, vi } from 'vitest';
import { Dialog } from './Dialog.tsx';

// jsdom has none.
vi.stubGlobal('CSS', { escape: (text: string) => text });

/** A dialog with a control that keeps Escape to itself, one that rests once it is pressed, and another dialog. */
function Host() {
  const [open, setOpen] = useState<readonly string[]>(['outer']);
  const [busy, setBusy] = useState(false);
  const close = (name: string) => setOpen((was) => was.filter((o) => o !== name));
  return (
    <>
      {open.includes('outer') && (
        <Dialog title="Outer" onClose={() => close('outer')} actions={null}>
          <input aria-label="Kept" onKeyDown={(e) => e.stopPropagation()} />
          <button disabled={busy} onClick={() => setBusy(true)}>
            Rest
          </button>
          <button onClick={() => setOpen(['outer', 'inner'])}>More</button>
          {open.includes('waiting') && <button data-waits-for-key>Press a key</button>}
          <button onKeyDown={(e) => e.stopPropagation()} onClick={() => setOpen(['outer', 'waiting'])}>
            Wait
          </button>
        </Dialog>
      )}
      {open.includes('inner') && (
        <Dialog title="Inner" onClose={() => close('inner')} actions={null}>
          <p>In front</p>
        </Dialog>
      )}
    </>
  );
}

it.each<[string, string | null, string[]]>([
  ['from where it begins', null, []],
  ['from a box that keeps the key to itself', 'Kept', []],
  ['where the control that had the focus rests', 'Rest', []],
  ['the one in front alone', 'More', ['Outer']],
  ['not while a key is waited for', 'Wait', ['Outer']],
])('Escape closes a dialog: %s', async (_, pressed, left) => {
  const user = userEvent.setup();
  const { unmount } = render(<Host />);
  if (pressed === 'Kept') await user.type(screen.getByLabelText(pressed), 'x');
  else if (pressed !== null) await user.click(screen.getByRole('button', { name: pressed }));
  await user.keyboard('{Escape}');
  expect(screen.queryAllByRole('dialog').map((d) => d.querySelector('h2')?.textContent)).toEqual(left);
  unmount();
});
