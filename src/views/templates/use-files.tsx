import { useRef, useState, type ReactNode } from 'react';
import type { Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import { allFamilies } from '../../core/text/families.ts';
import { laterDialog } from '../../ui/Later.tsx';
import { bringFont, brought, FONT_FILES, isFontFile } from '../shared/bring.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { carriedPicture } from './carried.ts';
import type { Operations } from './operations.ts';
import type { SvgRead } from './svg-in.ts';

const BringIn = laterDialog(() => import('./BringIn.tsx').then((m) => m.BringIn));

/**
 * Files that are dropped on the sheet or chosen: drawings become layers; pictures go into the library
 * and stand where they fell; fonts go into the library.
 */
export function useFiles(
  desk: Desk,
  { defs }: Pick<Prepared, 'defs'>,
  { inputs }: Pick<Template, 'inputs'>,
  layout: Layout,
  ops: Operations,
): {
  take: (files: readonly File[], at?: { x: number; y: number }) => Promise<void>;
  /** Opens the computer's files. */
  choose: () => void;
  /** What has to be in the page for it. */
  parts: ReactNode;
  /** What is said of the last one; blank for nothing. */
  said: string;
} {
  const box = useRef<HTMLInputElement>(null);
  const [drawing, setDrawing] = useState<{ name: string; read: SvgRead } | null>(null);
  const [said, setSaid] = useState('');
  const picture = async (file: File, at: { x: number; y: number }) => {
    const path = `new/${file.name}`;
    setSaid(`Bringing in ${file.name}…`);
    const done = await brought(desk, file, file.name, path);
    if ('problem' in done) return setSaid(done.problem);
    setSaid('');
    ops.putDown(carriedPicture(done.entry, file.name), at);
  };
  const take = async (files: readonly File[], at = { x: layout.width / 2, y: layout.height / 2 }) => {
    for (const file of files) {
      if (isFontFile(file.name)) {
        setSaid(`Bringing in ${file.name}…`);
        const done = await bringFont(desk, file);
        setSaid('problem' in done ? done.problem : `The font ${done.family} is in the list of fonts now.`);
        continue;
      }
      if (!/\.svg$/i.test(file.name) && file.type !== 'image/svg+xml') {
        await picture(file, at);
        continue;
      }
      try {
        const fonts = allFamilies(desk.media.list()).map((f) => f.name);
        const { readSvg } = await import('./svg-in.ts');
        setDrawing({ name: file.name, read: readSvg(await file.text(), fonts) });
        setSaid('');
      } catch (error) {
        setSaid(`${file.name}: ${error instanceof Error ? error.message : 'it cannot be read'}.`);
      }
    }
  };
  return {
    take,
    choose: () => box.current?.click(),
    said,
    parts: (
      <>
        <input
          ref={box}
          type="file"
          hidden
          multiple
          accept={`image/*,video/webm,.svg,${FONT_FILES}`}
          aria-label="Files to bring in"
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            e.target.value = '';
            void take(files);
          }}
        />
        {drawing && (
          <BringIn
            desk={desk}
            {...drawing}
            layout={layout}
            inputs={inputs}
            defs={defs}
            onClose={() => setDrawing(null)}
            onBring={(layers) => ops.add(layers, `Brought in ${drawing.name}`)}
          />
        )}
      </>
    ),
  };
}
