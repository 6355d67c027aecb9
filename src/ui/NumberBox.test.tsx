// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, describe, expect, it } from 'vitest';
import { NumberBox } from './NumberBox.tsx';

afterEach(cleanup);

/** A field that may be empty, from 1 to 2000, and all that it said. */
function field() {
  const said: (number | null)[] = [];
  function Form() {
    const [value, set] = useState<number | null>(100);
    const say = (n: number | null) => {
      said.push(n);
      set(n);
    };
    return (
      <NumberBox label="Width" min={1} max={2000} value={value} onChange={say} onEmpty={() => say(null)} />
    );
  }
  render(<Form />);
  return { said, box: screen.getByRole<HTMLInputElement>('textbox', { name: 'Width' }) };
}

describe('a number field', () => {
  it.each<[string, string, (number | null)[], string]>([
    ['a number is taken as it is typed', '250', [2, 25, 250], '250'],
    ['arithmetic at Enter', '1920/3{Enter}', [1, 19, 192, 1920, 640], '640'],
    ['a change adds to what stood there', '+=8{Enter}', [108], '108'],
    ['what is out of bounds comes within when it is left', '0{Tab}', [1], '1'],
    ['what is no number changes nothing', 'abc{Tab}', [], '100'],
    ['Escape goes back', '250{Escape}', [2, 25, 250, 100], '100'],
    ['arrows step', '{ArrowUp}{Shift>}{ArrowUp}{/Shift}{PageDown}{ArrowDown}', [101, 111, 101, 100], '100'],
    ['steps keep within bounds', '1995{PageUp}{ArrowUp}', [1, 19, 199, 1995, 2000], '2000'],
    ['nothing is nothing', '{Backspace}', [null], ''],
  ])('%s', async (_, keys, came, shown) => {
    const { said, box } = field();
    await userEvent.click(box);
    await userEvent.keyboard(keys);
    expect(said).toEqual(came);
    expect(box.value).toBe(shown);
  });

  it('says what may stand there while what is typed may not, and not of half an arithmetic', async () => {
    const { box } = field();
    await userEvent.click(box);
    await userEvent.keyboard('2000');
    expect(box.getAttribute('aria-invalid')).toBeNull();
    await userEvent.keyboard('0');
    expect(box.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByRole('status').textContent).toBe('A whole number from 1 to 2000.');
    await userEvent.keyboard('/');
    expect(screen.queryByRole('status')).toBeNull();
  });

  it.each<[string, string, (readonly number[])[]]>([
    ['a change adds to each', '+=8{Enter}', [[108, 308]]],
    ['a step goes from where each stands', '{ArrowUp}', [[101, 301]]],
    ['each keeps within bounds', '*=10{Enter}', [[1000, 2000]]],
    ['a number is for all of them', '7', []],
    ['a change of no number changes nothing', '+=x{Enter}', []],
  ])('of several that differ: %s', async (_, keys, came) => {
    const said: (readonly number[])[] = [];
    const all: number[] = [];
    const each = { values: [100, 300], onChange: (to: readonly number[]) => said.push(to) };
    render(
      <NumberBox label="Width" min={1} max={2000} value={null} onChange={(n) => all.push(n)} each={each} />,
    );
    await userEvent.click(screen.getByRole('textbox', { name: 'Width' }));
    await userEvent.keyboard(keys);
    expect(said).toEqual(came);
    expect(all).toEqual(keys === '7' ? [7] : []);
  });
});
