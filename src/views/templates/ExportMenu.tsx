import { useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { BoardReader } from '../../core/resolve/dependents.ts';
import { stemOf } from '../../core/text/keys.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { download, downloadJson } from '../../ui/download.ts';
import type { Desk } from '../shared/desk.ts';
import { cutOut, drawingOf, pictureOf, zipped, type Drawn } from './pictures.ts';
import { samplesOf } from './samples.ts';
import css from './LayoutMenu.module.css';

/** What can be had of a template as files: pictures of it, and itself. */
export function ExportMenu({
  desk,
  template,
  layout,
  chosen,
  inputs,
  board,
  all,
  onClose,
}: {
  desk: Desk;
  template: Template;
  layout: Layout;
  chosen: ReadonlySet<string>;
  /** What the inputs hold on the canvas. */
  inputs: Record<string, Scalar>;
  /** What the canvas reads in the place of the board; null: the board. */
  board: BoardReader | null;
  /** Every template of the package. */
  all: readonly Template[];
  onClose: () => void;
}) {
  const [said, setSaid] = useState('');
  /** What the last drawing could not keep. */
  const [lost, setLost] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  const drawn = (of: Layout): Drawn => ({ layout: of, inputs, board });
  const part = cutOut(desk, drawn(layout), chosen);
  const make = (work: () => Promise<void>) => {
    setBusy(true);
    setLost([]);
    setSaid('Drawing…');
    work()
      .then(
        () => setSaid('Done: it is among your downloads.'),
        (error: unknown) =>
          setSaid(`No picture: ${error instanceof Error ? error.message : 'the page could not draw it'}.`),
      )
      .finally(() => setBusy(false));
  };
  const name = (key: string, type = 'png') => `${stemOf(template.name) || template.key}-${key}.${type}`;
  return (
    <Dialog title="Export" onClose={onClose} actions={<Button onClick={onClose}>Close</Button>}>
      <div className={css['layouts']}>
        <p>Pictures are PNG with alpha, in the exact size, as the canvas shows it now.</p>
        <div className={css['choices']}>
          <Button
            main
            disabled={busy}
            onClick={() => make(async () => download(await pictureOf(desk, drawn(layout)), name(layout.key)))}
          >
            Picture of {layout.key}, {layout.width} × {layout.height}
          </Button>
          <Button
            disabled={busy || !part}
            onClick={() =>
              make(async () =>
                download(
                  await pictureOf(desk, drawn(part!)),
                  name(chosen.size === 1 ? [...chosen][0]! : 'chosen'),
                ),
              )
            }
          >
            {part ? `Picture of what is chosen, ${part.width} × ${part.height}` : 'Picture of what is chosen'}
          </Button>
          <Button
            disabled={busy}
            onClick={() =>
              make(async () => {
                const files = [];
                for (const t of all)
                  for (const l of t.layouts) {
                    setSaid(`Drawing ${t.name}…`);
                    const filled = t.key === template.key ? inputs : samplesOf(t);
                    const blob = await pictureOf(desk, { layout: l, inputs: filled, board });
                    files.push({ name: `${t.key}-${l.key}.png`, blob });
                  }
                download(await zipped(files), 'templates.zip');
              })
            }
          >
            Pictures of all templates, in a zip
          </Button>
          <Button
            disabled={busy}
            onClick={() =>
              make(async () => {
                const { svg, lost } = await drawingOf(desk, drawn(layout));
                download(new Blob([svg], { type: 'image/svg+xml' }), name(layout.key, 'svg'));
                setLost(lost);
              })
            }
          >
            Drawing of {layout.key}, SVG
          </Button>
          <Button onClick={() => downloadJson(template, `${template.key}.json`)}>
            The template, as JSON
          </Button>
        </div>
        <p role="status">{[said, ...lost].join(' ')}</p>
      </div>
    </Dialog>
  );
}
