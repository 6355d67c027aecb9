import { useRef } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import { layoutFor } from '../../core/show/layout.ts';
import type { Zone } from '../../core/show/show.ts';
import type { Template } from '../../core/documents/template.ts';
import { misfits } from '../../core/text/fit.ts';
import type { Stage } from '../../stage/stage.ts';
import type { Desk } from '../shared/desk.ts';
import { useOwnStage } from '../shared/own-stage.ts';
import { useScale } from './Picture.tsx';
import css from './Preview.module.css';

/** How an item would look in its zone with these inputs, resolved in the page from the same board. */
export function Preview({
  desk,
  template,
  zone,
  inputs,
  pictureHeight,
  onFit,
}: {
  desk: Desk;
  template: Template;
  zone: Zone;
  inputs: Record<string, Scalar>;
  /** How high the picture is that it goes out in, in px: too small is what is small in that. */
  pictureHeight: number;
  /** What does not fit as it should, each in a sentence; called when that is something else. */
  onFit: (said: string[]) => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLDivElement>(null);
  const last = useRef('');
  const look = (stage: Stage) => {
    const said = misfits(stage.fits(), pictureHeight);
    if (said.join() === last.current) return;
    last.current = said.join();
    onFit(said);
  };
  useOwnStage(desk, root, {
    name: template.key,
    layout: layoutFor(template, zone),
    inputs,
    size: zone,
    onDrawn: look,
    onChanged: look,
  });
  useScale(frame, root, zone.width);
  return (
    <div ref={frame} className={css['frame']} style={{ aspectRatio: `${zone.width} / ${zone.height}` }}>
      <div ref={root} className={css['stage']} data-picture="preview" />
    </div>
  );
}
