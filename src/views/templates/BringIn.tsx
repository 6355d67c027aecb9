import { fileNameOf } from '../../core/media/media.ts';
import { useMemo, useState } from 'react';
import { layersOf, type Layer, type Layout } from '../../core/layers/kinds.ts';
import type { InputDef } from '../../core/documents/template.ts';
import { counted } from '../../core/text/words.ts';
import { bindTo } from '../../core/workshop/showing.ts';
import { layersOfParts, proposalsOf, type Placing } from '../../core/workshop/svg.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Switch } from '../../ui/Switch.tsx';
import { bringFile } from '../shared/bring.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { Still } from '../shared/Still.tsx';
import type { SvgRead } from './svg-in.ts';
import css from './BringIn.module.css';

const NOTHING = {};

/** What a data address holds; null where it cannot be read. The page's policy lets it fetch none. */
function blobOf(address: string): Blob | null {
  const found = /^data:([\w/+.-]+)((?:;[\w=-]+)*),([\s\S]*)$/.exec(address);
  if (!found) return null;
  const [, type, how, body] = found as unknown as [string, string, string, string];
  try {
    const text = /;base64$/i.test(how) ? atob(body.replace(/\s/g, '')) : decodeURIComponent(body);
    return new Blob([Uint8Array.from(text, (sign) => sign.charCodeAt(0))], { type });
  } catch {
    return null;
  }
}

/** A drawing before it is brought in: how it looks as layers, what of it is bound by its names, and what cannot be kept. */
export function BringIn({
  desk,
  name,
  read,
  layout,
  inputs,
  defs,
  onClose,
  onBring,
}: {
  desk: Desk;
  /** What the file is called. */
  name: string;
  read: SvgRead;
  layout: Layout;
  inputs: readonly InputDef[];
  defs: Prepared['defs'];
  onClose: () => void;
  onBring: (layers: Layer[]) => void;
}) {
  const { width, height } = read;
  const fits = Math.min(layout.width / width, layout.height / height);
  const [own, setOwn] = useState(width <= layout.width && height <= layout.height);
  const [off, setOff] = useState<ReadonlySet<string>>(new Set());
  const [said, setSaid] = useState('');
  const placing: Placing = useMemo(() => {
    const scale = own ? 1 : fits;
    return {
      scale,
      x: Math.round((layout.width - width * scale) / 2),
      y: Math.round((layout.height - height * scale) / 2),
    };
  }, [own, fits, layout, width, height]);
  const layers = useMemo(() => layersOfParts(layout, read.parts, placing), [layout, read, placing]);
  const shown = useMemo(
    () => ({
      key: 'drawing',
      width,
      height,
      layers: layersOfParts({ layers: [] }, read.parts, { scale: 1, x: 0, y: 0 }),
    }),
    [read, width, height],
  );
  const proposals = proposalsOf(layers, defs, inputs);
  const bring = async () => {
    const made = structuredClone(layers);
    for (const layer of layersOf(made)) {
      // What the drawing has within it goes into the library: a layer names it by its path.
      if (
        layer.kind === 'picture' &&
        typeof layer.picture === 'string' &&
        layer.picture.startsWith('data:')
      ) {
        const blob = blobOf(layer.picture);
        const kind = /\/(\w+)/.exec(blob?.type ?? '')?.[1] ?? 'png';
        const path = `drawings/${name.replace(/\.svg$/i, '')}/${layer.id}.${kind === 'jpeg' ? 'jpg' : kind}`;
        setSaid(`Bringing in ${layer.name}…`);
        const problem = blob ? await bringFile(desk, blob, fileNameOf(path), path) : 'It cannot be read.';
        if (problem) return setSaid(`The picture ${layer.name}: ${problem}`);
        layer.picture = path;
      }
      const bound = proposals.find((p) => p.id === layer.id && !off.has(p.id));
      if (bound) bindTo(layer, bound.prop, bound.value);
    }
    onBring(made);
    onClose();
  };
  return (
    <Dialog
      title={`Bring in ${name}`}
      onClose={onClose}
      wide
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button main disabled={layers.length === 0} onClick={() => void bring()}>
            Bring in {counted([...layersOf(layers)].length, 'layer')}
          </Button>
        </>
      }
    >
      <div className={css['bring']}>
        <div className={css['look']}>
          <Still desk={desk} layout={shown} inputs={NOTHING} width={420} height={236} />
          <p>
            {Math.round(width)} × {Math.round(height)} px; the sheet is {layout.width} × {layout.height}.
          </p>
          <Switch on={!own} onChange={(scaled) => setOwn(!scaled)}>
            as large as the sheet allows
          </Switch>
        </div>
        {proposals.length > 0 && (
          <section aria-label="Bound by its name">
            <h3>Bound by its name</h3>
            <ul>
              {proposals.map(({ id, name: layer, to }) => (
                <li key={id}>
                  <Switch
                    on={!off.has(id)}
                    onChange={(on) => {
                      const next = new Set(off);
                      if (on) next.delete(id);
                      else next.add(id);
                      setOff(next);
                    }}
                  >
                    {layer}: {to}
                  </Switch>
                </li>
              ))}
            </ul>
          </section>
        )}
        {read.lost.length > 0 && (
          <section aria-label="What cannot be kept">
            <h3>What cannot be kept</h3>
            <ul className={css['lost']}>
              {read.lost.map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          </section>
        )}
        {said && <p role="status">{said}</p>}
      </div>
    </Dialog>
  );
}
