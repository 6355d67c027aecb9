// @vitest-environment jsdom
import { cleanup, configure, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { FormErrors, ValidatedForm, FieldError } from './ValidatedForm.tsx';
import type { Desk } from './desk.ts';
import { useEditing } from './editing.ts';
import { errorSentences, errorsOf, errorAt } from './problems.ts';

// A second, as it is by itself, is little on a busy machine.
configure({ asyncUtilTimeout: 20_000 });

interface Doc {
  name: string;
  places: { number: string }[];
}
const start: Doc = { name: 'Opening', places: [{ number: '7' }] };
const read = (doc: Doc) => {
  const problems = [
    ...(doc.name ? [] : ['name: a name is missing']),
    ...doc.places.flatMap((p, i) =>
      /^\d*$/.test(p.number) ? [] : [`places.${i}.number: "${p.number}" is no number`],
    ),
  ];
  return Promise.resolve(
    problems.length ? { ok: false as const, problems } : { ok: true as const, value: doc },
  );
};
const act = vi.fn(() => Promise.resolve({ ok: true, text: '' }));
let revision = 1;
const desk = { act, revisionOf: () => revision } as unknown as Desk;
let current = start;

function Editor({ saved }: { saved: Doc }) {
  const editing = useEditing({ desk, kind: 'game', key: 'a', saved, current: () => current, read });
  const { draft, set } = editing;
  return (
    <ValidatedForm editing={editing}>
      <FormErrors />
      <label>
        Name <input value={draft.name} onChange={(e) => set({ ...draft, name: e.target.value })} />
      </label>
      <FieldError at="name" />
      <label>
        Number{' '}
        <input
          value={draft.places[0]!.number}
          onChange={(e) => set({ ...draft, places: [{ number: e.target.value }] })}
        />
      </label>
      <FieldError at="places.0.number" />
      <p>
        {editing.dirty ? 'changed' : 'as saved'}, {editing.elsewhere ? 'saved elsewhere' : 'nowhere else'},{' '}
        {editing.revision}
      </p>
      <button onClick={editing.discard}>Discard</button>
      <button
        onClick={() =>
          void editing.save((body) => ({ kind: 'put-document', what: 'game', body: { ...body, key: 'a' } }))
        }
      >
        Save
      </button>
    </ValidatedForm>
  );
}
const name = () => screen.getByLabelText<HTMLInputElement>(/Name/);
const state = () => screen.getByText(/, (saved|nowhere)/).textContent;

describe('a document that is being changed', () => {
  afterEach(() => {
    cleanup();
    act.mockClear();
  });

  it('says what is wrong beside its field and in all, until it is right', async () => {
    const user = userEvent.setup();
    render(<Editor saved={start} />);
    expect(screen.queryByRole('alert')).toBeNull();
    await user.clear(name());
    expect(await screen.findByText('a name is missing')).toBeTruthy();
    await user.type(screen.getByLabelText(/Number/), 'x');
    expect((await screen.findByRole('alert')).textContent).toBe(
      'Put right before you save: name: a name is missing; places 1 number: "7x" is no number.',
    );
    await user.click(screen.getByText('Discard'));
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
    expect(name().value).toBe('Opening');
    expect(state()).toBe('as saved, nowhere else, 1');
  });

  it('takes over what another desk saved while nothing is changed here, and keeps what is', async () => {
    const user = userEvent.setup();
    const { rerender } = render(<Editor saved={start} />);
    revision = 2;
    rerender(<Editor saved={{ ...start, name: 'Rematch' }} />);
    await waitFor(() => expect(name().value).toBe('Rematch'));
    expect(state()).toBe('as saved, nowhere else, 2');
    await user.type(name(), '!');
    revision = 3;
    rerender(<Editor saved={{ ...start, name: 'Final' }} />);
    expect(name().value).toBe('Rematch!');
    expect(state()).toBe('changed, saved elsewhere, 2');
    current = { ...start, name: 'Rematch!' };
    await user.click(screen.getByText('Save'));
    expect(act).toHaveBeenCalledWith(
      expect.objectContaining({ revision: 2, body: { ...current, key: 'a' } }),
    );
    rerender(<Editor saved={current} />);
    await waitFor(() => expect(state()).toBe('as saved, nowhere else, 3'));
  });
});

describe('problems of a document', () => {
  it.each([
    ['name', ['name: it is missing', 'name: it is short'], 'it is missing; it is short'],
    [
      'home.players',
      ['home.players: one is there twice', 'home.players.0.number: is none'],
      'one is there twice',
    ],
    ['', ['this is no game'], 'this is no game'],
    ['constructor.name', ['constructor.name: odd'], 'odd'],
    ['toString', ['name: it is missing'], null],
  ])('stand at %j of %j', (place, problems, said) => {
    expect(errorAt(errorsOf(problems), place)).toBe(said);
  });
  it('are all told, places of lists counted from 1', () => {
    const problems = [
      'home.players.0.number: is none',
      'source.transport.port: is none',
      'whatever is wrong',
    ];
    expect(errorSentences(errorsOf(problems))).toEqual([
      'whatever is wrong',
      'home players 1 number: is none',
      'port: is none',
    ]);
  });
});
