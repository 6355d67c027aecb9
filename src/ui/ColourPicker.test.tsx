// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import { ColourPicker } from './ColourPicker.tsx';

// jsdom has none.
vi.stubGlobal('CSS', { escape: (text: string) => text });
afterEach(cleanup);

/** What asks for a colour, drawn again whenever its button is pressed, as a view is by whatever happens elsewhere. */
function Form({ said }: { said: string[] }) {
  const [value, set] = useState('#102030');
  const [, again] = useState(0);
  return (
    <div onKeyUp={() => again((n) => n + 1)}>
      <ColourPicker
        label="Ground"
        value={value}
        onChange={(c) => {
          said.push(c);
          set(c);
        }}
      />
    </div>
  );
}

it('what is typed as figures is kept while all around it is drawn again', async () => {
  const said: string[] = [];
  render(<Form said={said} />);
  await userEvent.click(screen.getByRole('button', { name: 'Ground, by eye' }));
  const figures = screen.getByRole<HTMLInputElement>('textbox', { name: 'Figures' });
  await userEvent.clear(figures);
  await userEvent.type(figures, '#445566');
  expect(figures.value).toBe('#445566');
  await userEvent.keyboard('{Enter}');
  expect(said).toEqual(['#445566']);
});
