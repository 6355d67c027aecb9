import { useState } from 'react';
import { fromPalette, HEX, PALETTE, type Palette } from '../../core/documents/palette.ts';
import { moreLegible } from '../../core/colour/contrast.ts';
import { freshKey } from '../../core/text/keys.ts';
import type { Value } from '../../core/value/value.ts';
import { Button } from '../../ui/Button.tsx';
import { ColourPicker, Swatches } from '../../ui/ColourPicker.tsx';
import type { Desk } from './desk.ts';
import { useDesk } from './use-desk.ts';
import { saveDocument } from './save.ts';
import css from './ColourChoice.module.css';

/** The two inks of which the more legible one is written in, where the palette has none of these names. */
const INKS: readonly [string, string] = ['#16130f', '#f6f1e7'];

/** The colours that the two sides wear, as fields of the board. */
const WORN = [
  ['home.colour', 'Home'],
  ['home.second', 'Home 2nd'],
  ['away.colour', 'Away'],
  ['away.second', 'Away 2nd'],
] as const;

/**
 * What a colour is chosen by: by eye, of the package's palette (changed in one place, and with it all that shows it), what the
 * sides wear, or the more legible of two inks on that.
 */
export function ColourChoice({
  desk,
  label,
  value,
  chosen = null,
  name,
  onChange,
  onValue,
}: {
  desk: Desk;
  label: string;
  /** What it is now. */
  value: string;
  /** The palette's colour that it is. */
  chosen?: string | null;
  /** What it is called, where it is more than its figures. */
  name?: string | undefined;
  onChange: (colour: string) => void;
  /** It comes from somewhere; without it, only colours themselves can be chosen. */
  onValue?: (value: Value) => void;
}) {
  const palette = useDesk(desk, (s) => s.desk!.documents.palette.find((p) => p.key === PALETTE));
  const colours = palette?.colours ?? [];
  const worn = WORN.map(([key, said]) => ({ key, name: said, colour: String(desk.read(key) ?? '') }));
  const inks = (['ink', 'paper'] as const).map(
    (key, i) => colours.find((c) => c.key === key)?.colour ?? INKS[i]!,
  ) as [string, string];
  return (
    <ColourPicker label={label} value={value} onChange={onChange} {...(name ? { name } : {})}>
      <Swatches
        heading="Palette"
        colours={colours}
        chosen={chosen}
        onChoose={(key) =>
          onValue ? onValue(fromPalette(key)) : onChange(colours.find((c) => c.key === key)!.colour)
        }
      />
      <Keep desk={desk} palette={palette} colour={value} onKept={(key) => onValue?.(fromPalette(key))} />
      {onValue && (
        <>
          <Swatches heading="What the sides wear" colours={worn} onChoose={(field) => onValue({ field })} />
          <Swatches
            heading="Ink that reads on"
            colours={worn
              .filter(({ key }) => key.endsWith('.colour'))
              .map((w) => ({ ...w, colour: w.colour ? moreLegible(w.colour, inks) : inks[1] }))}
            onChoose={(field) => onValue({ field, format: { ink: inks } })}
          />
        </>
      )}
    </ColourPicker>
  );
}

/** Gives a colour a name in the palette. */
function Keep({
  desk,
  palette,
  colour,
  onKept,
}: {
  desk: Desk;
  palette: Palette | undefined;
  colour: string;
  onKept: (key: string) => void;
}) {
  const [name, setName] = useState('');
  const [said, setSaid] = useState('');
  const keep = async () => {
    const colours = palette?.colours ?? [];
    const key = freshKey(name, (k) => colours.some((c) => c.key === k), 'colour');
    const body: Palette = {
      schema: 1,
      key: PALETTE,
      colours: [...colours, { key, name: name.trim(), colour }],
    };
    const answer = await saveDocument(desk, 'palette', body);
    setSaid(answer.ok ? '' : answer.text);
    if (!answer.ok) return;
    setName('');
    onKept(key);
  };
  if (!HEX.test(colour)) return null;
  return (
    <div className={css['keep']}>
      <input
        value={name}
        maxLength={80}
        placeholder="Name it, for the package"
        aria-label="Name of this colour in the package"
        onChange={(e) => setName(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && name.trim()) void keep();
        }}
      />
      <Button disabled={!name.trim()} onClick={() => void keep()}>
        Keep
      </Button>
      {said && <p role="alert">{said}</p>}
    </div>
  );
}
