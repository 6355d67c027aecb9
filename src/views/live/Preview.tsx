import { useRef } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import { layoutFor } from '../../core/show/layout.ts';
import type { Zone } from '../../core/show/show.ts';
import type { Template } from '../../core/documents/template.ts';
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
}: {
  desk: Desk;
  template: Template;
  zone: Zone;
  inputs: Record<string, Scalar>;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLDivElement>(null);
  useOwnStage(desk, root, { name: template.key, layout: layoutFor(template, zone), inputs, size: zone });
  useScale(frame, root, zone.width);
  return (
    <div ref={frame} className={css['frame']} style={{ aspectRatio: `${zone.width} / ${zone.height}` }}>
      <div ref={root} className={css['stage']} data-picture="preview" />
    </div>
  );
}
