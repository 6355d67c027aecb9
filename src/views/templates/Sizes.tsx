import type { Output } from '../../core/show/show.ts';
import { SizeFields, type Size } from '../shared/SizeFields.tsx';

/** Every zone of the outputs, as it is chosen from a list. */
export const zonesOf = (outputs: readonly Output[]) =>
  outputs.flatMap((o) =>
    o.zones.map((z) => ({ ...z, output: o.key, zone: z.key, label: `${o.name}, ${z.name}` })),
  );

/** A size: that of a zone, or any other. */
export function SizeChoice({
  zones,
  size,
  onSize,
}: {
  zones: readonly (Size & { label: string })[];
  size: Size;
  onSize: (size: Size) => void;
}) {
  return (
    <>
      <label>
        Size of
        <select
          value={zones.findIndex((z) => z.width === size.width && z.height === size.height)}
          onChange={(e) => {
            const zone = zones[Number(e.target.value)];
            if (zone) onSize({ width: zone.width, height: zone.height });
          }}
        >
          {zones.map((z, i) => (
            <option key={z.label} value={i}>
              {z.label}
            </option>
          ))}
          <option value={-1}>another size</option>
        </select>
      </label>
      <SizeFields size={size} onSize={onSize} />
    </>
  );
}
