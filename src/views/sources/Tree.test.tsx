// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { fromJson } from '../../core/tree/json.ts';
import { pruned } from '../../core/tree/node.ts';
import { Tree } from './Tree.tsx';

afterEach(cleanup);

it('a document says how many more there are of what repeats, and shows them when they are asked for', async () => {
  const players = Array.from({ length: 90 }, (_, i) => ({ name: `Player ${i + 1}` }));
  const document = fromJson({ club: 'Owls', players });
  const onMore = vi.fn();
  const draw = (most?: number) => (
    <Tree root={pruned(document, most)} named={new Set()} onPick={() => {}} onMore={onMore} />
  );
  const { rerender } = render(draw());
  expect(screen.getByText('Player 40')).toBeTruthy();
  expect(screen.queryByText('Player 41')).toBeNull();
  // By its text: to look a role up among so many takes seconds here.
  const more = screen.getByText('Show 50 more');
  expect(more.tagName).toBe('BUTTON');
  await userEvent.click(more);
  expect(onMore).toHaveBeenCalledTimes(1);
  rerender(draw(240));
  expect(screen.getByText('Player 90')).toBeTruthy();
  expect(screen.queryByText(/more/)).toBeNull();
});
