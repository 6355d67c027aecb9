import X from 'lucide-react/icons/x';
import { useState } from 'react';
import { PALETTE, type Palette } from '../../core/documents/palette.ts';
import { freshId } from '../../core/text/keys.ts';
import { Button } from '../../ui/Button.tsx';
import { ColourPicker } from '../../ui/ColourPicker.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import type { Desk } from '../shared/desk.ts';
import { useDesk } from '../shared/use-desk.ts';
import css from './PaletteDialog.module.css';

/** The package's named colours. A change shows at once in all that has the colour, on air too: it is saved by its button. */
export function PaletteDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const saved = useDesk(desk, (s) => s.desk!.documents.palette.find((p) => p.key === PALETTE));
  const [begun] = useState(() => desk.revisionOf('palette', PALETTE));
  const [colours, setColours] = useState(saved?.colours ?? []);
  const [said, setSaid] = useState('');
  const put = (at: number, part: Partial<Palette['colours'][number]>) =>
    setColours((all) => all.map((c, i) => (i === at ? { ...c, ...part } : c)));
  const save = async () => {
    const body = { schema: 1, key: PALETTE, colours };
    const answer = await desk.act({ kind: 'put-document', what: 'palette', body, revision: begun });
    if (answer.ok) onClose();
    else setSaid(answer.text);
  };
  return (
    <Dialog
      title="Palette"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button main disabled={colours.some((c) => !c.name.trim())} onClick={() => void save()}>
            Save
          </Button>
        </>
      }
    >
      <p>What has a colour of the palette shows its change at once, on air too.</p>
      <ul className={css['palette']} aria-label="Colours of the palette">
        {colours.map((c, at) => (
          <li key={c.key} data-colour={c.key}>
            <ColourPicker label={c.name} value={c.colour} onChange={(colour) => put(at, { colour })} />
            <input
              value={c.name}
              maxLength={80}
              aria-label={`Name of ${c.colour}`}
              onChange={(e) => put(at, { name: e.target.value })}
            />
            <code>{c.colour}</code>
            <button
              type="button"
              aria-label={`Remove ${c.name}`}
              data-tip="What shows it shows nothing in its place"
              onClick={() => setColours(colours.filter((_, i) => i !== at))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
        {colours.length === 0 && <li>No colour has a name yet.</li>}
      </ul>
      <Button
        disabled={colours.length >= 100}
        onClick={() => {
          const key = freshId(new Set(colours.map((c) => c.key)), 'colour');
          setColours([...colours, { key, name: 'New colour', colour: '#808080' }]);
        }}
      >
        Add a colour
      </Button>
      {said && <p role="alert">{said}</p>}
    </Dialog>
  );
}
