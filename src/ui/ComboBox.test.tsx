// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, beforeAll, expect, it, vi } from 'vitest';
import { Suggest } from './ComboBox.tsx';

// What this stand-in for a browser lacks.
beforeAll(() => vi.stubGlobal('CSS', { escape: (text: string) => text }));
afterEach(cleanup);

it('a text box with suggestions takes anything typed, and Enter is the form’s unless a suggestion is under the keys', async () => {
  const sent: string[] = [];
  function Form() {
    const [value, set] = useState('home');
    return (
      <form
        onSubmit={(event) => {
          event.preventDefault();
          sent.push(value);
        }}
      >
        <Suggest
          label="Possession"
          value={value}
          suggestions={['home', 'away'].map((v) => ({ value: v }))}
          onChange={set}
        />
      </form>
    );
  }
  render(<Form />);
  const user = userEvent.setup();
  const box = screen.getByRole<HTMLInputElement>('combobox', { name: 'Possession' });
  await user.click(box);
  await user.keyboard('{Control>}a{/Control}nobody{Enter}');
  expect(box.value).toBe('nobody');
  expect(sent).toEqual(['nobody']);
  await user.keyboard('{Control>}a{/Control}a');
  expect(box.getAttribute('aria-expanded')).toBe('true');
  await user.keyboard('{Enter}');
  expect(sent).toEqual(['nobody', 'a']);
});
