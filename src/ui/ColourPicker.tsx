import { useMemo, type ReactNode } from 'react';
import {
  Button,
  ColorArea,
  ColorField,
  ColorPicker as Base,
  ColorSlider,
  ColorThumb,
  Dialog,
  DialogTrigger,
  Input,
  Label,
  parseColor,
  Popover,
  SliderTrack,
  type Color,
} from 'react-aria-components';
import css from './ColourPicker.module.css';

/** A colour as CSS writes one, read; null where it is none that can be picked. */
function read(text: string): Color | null {
  try {
    return parseColor(text).toFormat('hsba');
  } catch {
    return null;
  }
}

/** What is picked from where there is no colour yet. */
const WHITE = parseColor('hsb(0, 0%, 100%)');

/** A colour as it is kept: six figures, and two more where it lets something through. */
const written = (colour: Color): string =>
  colour.toString(colour.getChannelValue('alpha') < 1 ? 'hexa' : 'hex').toLowerCase();

/** A button that shows a colour and opens what it is chosen by: by eye, by its figures, with how much it lets through. */
export function ColourPicker({
  label,
  value,
  onChange,
  name,
  children,
}: {
  label: string;
  /** As CSS writes it; blank for none. */
  value: string;
  onChange: (colour: string) => void;
  /** What stands on the button beside the colour. */
  name?: string;
  /** More to choose from, in the same box. */
  children?: ReactNode;
}) {
  // One object for one colour: with another one the field of its figures throws away what is being typed.
  const colour = useMemo(() => read(value) ?? WHITE, [value]);
  return (
    <DialogTrigger>
      <Button className={css['button']!} aria-label={`${label}, by eye`}>
        <i className={css['swatch']}>
          <i style={{ background: value || 'none' }} />
        </i>
        {name}
      </Button>
      <Popover className={css['popover']!} placement="bottom end">
        <Dialog className={css['dialog']!} aria-label={label}>
          <Base value={colour} onChange={(c) => c && onChange(written(c))}>
            <ColorArea colorSpace="hsb" xChannel="saturation" yChannel="brightness" className={css['area']!}>
              <ColorThumb className={css['thumb']!} />
            </ColorArea>
            {(['hue', 'alpha'] as const).map((channel) => (
              <ColorSlider key={channel} colorSpace="hsb" channel={channel} className={css['slider']!}>
                <Label>{channel === 'hue' ? 'Hue' : 'Opacity'}</Label>
                <SliderTrack className={css['track']!}>
                  <ColorThumb className={css['thumb']!} />
                </SliderTrack>
              </ColorSlider>
            ))}
            <ColorField className={css['field']!}>
              <Label>Figures</Label>
              <Input />
            </ColorField>
          </Base>
          {children}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}

/** Colours to press, each by its name. */
export function Swatches({
  heading,
  colours,
  chosen,
  onChoose,
}: {
  heading: string;
  colours: readonly { key: string; name: string; colour: string }[];
  chosen?: string | null;
  onChoose: (key: string) => void;
}) {
  if (colours.length === 0) return null;
  return (
    <div className={css['swatches']} role="group" aria-label={heading}>
      <h4>{heading}</h4>
      {colours.map(({ key, name, colour }) => (
        <button key={key} type="button" aria-pressed={key === chosen} onClick={() => onChoose(key)}>
          <i className={css['swatch']}>
            <i style={{ background: colour || 'none' }} />
          </i>
          {name}
        </button>
      ))}
    </div>
  );
}
