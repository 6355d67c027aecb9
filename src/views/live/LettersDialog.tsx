import { LETTERS, type Output, type Zone } from '../../core/show/show.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import type { Desk } from '../shared/desk.ts';
import { strokes, useTakenKeys } from '../shared/keymap.ts';
import { saveDocument } from '../shared/save.ts';
import { Refused } from '../shared/Said.tsx';
import css from './LaneList.module.css';

/** The letter of each lane. One that another lane has moves to where it is chosen. */
export function LettersDialog({
  desk,
  outputs,
  onClose,
}: {
  desk: Desk;
  outputs: readonly Output[];
  onClose: () => void;
}) {
  const taken = useTakenKeys();
  const free = LETTERS.filter((letter) => !taken.has(letter));
  const used = new Set(outputs.flatMap((o) => o.zones.map((z) => z.letter)));
  const save = (output: Output, letterOf: (zone: Zone) => string) => {
    const zones = output.zones.map((z) => ({ ...z, letter: letterOf(z) }));
    const body: Output = { ...output, zones };
    if (zones.every((z, i) => z.letter === output.zones[i]!.letter)) return Promise.resolve({ ok: true });
    return saveDocument(desk, 'output', body);
  };
  const choose = async (at: Output, zone: Zone, letter: string) => {
    for (const output of outputs) {
      const answer = await save(output, (z) =>
        output === at && z === zone ? letter : z.letter === letter ? '' : z.letter,
      );
      if (!answer.ok) return;
    }
  };
  const fill = async (those: readonly Output[]) => {
    const left = free.filter((letter) => !used.has(letter));
    for (const output of those) {
      const answer = await save(output, (z) => z.letter || (left.shift() ?? ''));
      if (!answer.ok) return;
    }
  };
  const missing = (output: Output) => output.zones.some((z) => !z.letter);
  return (
    <Dialog
      title="Letters of the lanes"
      onClose={onClose}
      actions={
        <>
          <Button disabled={!outputs.some(missing)} onClick={() => void fill(outputs)}>
            Give free letters to the rest
          </Button>
          <Button main onClick={onClose}>
            Close
          </Button>
        </>
      }
    >
      <p>
        A letter puts its lane under the keys. The same keys work in all lanes. Beyond{' '}
        {free.filter((l) => l.length === 1).length} lanes there are keys of two strokes: a point, then a
        letter. A lane without a letter is worked with the mouse and the arrows.
      </p>
      {outputs.map((output) => (
        <fieldset key={output.key} className={css['letters']}>
          <legend>{output.name}</legend>
          <p>
            <Button disabled={!missing(output)} onClick={() => void fill([output])}>
              Give letters
            </Button>
            <Button
              disabled={output.zones.every((z) => !z.letter)}
              onClick={() => void save(output, () => '')}
            >
              No letters
            </Button>
          </p>
          {output.zones.map((zone) => (
            <label key={zone.key}>
              {zone.name}
              <select
                aria-label={`Letter of ${output.name}, ${zone.name}`}
                value={zone.letter}
                onChange={(e) => void choose(output, zone, e.target.value)}
              >
                <option value="">none</option>
                {LETTERS.filter((l) => free.includes(l) || l === zone.letter).map((letter) => (
                  <option key={letter} value={letter}>
                    {strokes(letter)}
                    {used.has(letter) && letter !== zone.letter ? ' (in use)' : ''}
                  </option>
                ))}
              </select>
            </label>
          ))}
        </fieldset>
      ))}
      <Refused desk={desk} />
    </Dialog>
  );
}
