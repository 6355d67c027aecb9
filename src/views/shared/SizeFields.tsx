import { NumberField } from '../../ui/NumberField.tsx';
import css from './SizeFields.module.css';

export interface Size {
  width: number;
  height: number;
}

/** A size in px, typed. */
export function SizeFields({
  size,
  most = 20_000,
  of = '',
  onSize,
}: {
  size: Size;
  /** The longest side. */
  most?: number;
  /** What it is the size of, where that is not plain. */
  of?: string;
  onSize: (size: Size) => void;
}) {
  const side = (name: 'width' | 'height') => (
    <NumberField
      name={`${name === 'width' ? 'Width' : 'Height'}${of && ` of ${of}`}`}
      value={size[name]}
      {...(name === 'height' && { unit: 'px' })}
      size={5}
      min={1}
      max={most}
      onChange={(n) => onSize({ width: size.width, height: size.height, [name]: n })}
    />
  );
  return (
    <span className={css['size']}>
      {side('width')} × {side('height')}
    </span>
  );
}
