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

/** A size: one of those that are usual here, or any other. */
export function SizeChoice({
  label = 'Size of',
  usual,
  size,
  most,
  onSize,
}: {
  label?: string;
  usual: readonly (Size & { label: string })[];
  size: Size;
  /** The longest side. */
  most?: number;
  onSize: (size: Size) => void;
}) {
  return (
    <>
      <label>
        {label}
        <select
          value={usual.findIndex((u) => u.width === size.width && u.height === size.height)}
          onChange={(e) => {
            const one = usual[Number(e.target.value)];
            if (one) onSize({ width: one.width, height: one.height });
          }}
        >
          {usual.map((u, i) => (
            <option key={u.label} value={i}>
              {u.label}
            </option>
          ))}
          <option value={-1}>another size</option>
        </select>
      </label>
      <SizeFields size={size} onSize={onSize} {...(most === undefined ? {} : { most })} />
    </>
  );
}
