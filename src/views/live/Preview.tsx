import { useEffect, useRef } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import { Resolver } from '../../core/resolve/resolver.ts';
import { layoutFor } from '../../core/show/layout.ts';
import type { Zone } from '../../core/show/show.ts';
import type { Template } from '../../core/documents/template.ts';
import { fontsReady, Stage } from '../../stage/stage.ts';
import type { Desk } from '../shared/desk.ts';
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
  const draw = useRef<() => void>(() => {});
  const latest = useRef({ template, zone, inputs });

  useEffect(() => {
    latest.current = { template, zone, inputs };
    draw.current();
  }, [template, zone, inputs]);

  useEffect(() => {
    let closed = false;
    let stop = () => {};
    void fontsReady().then(() => {
      if (closed) return;
      const stage = new Stage(root.current!, desk.link.serverNow);
      const resolver = new Resolver(desk, desk.picture);
      draw.current = () => {
        const { template, zone, inputs } = latest.current;
        const { width, height } = zone;
        const layout = layoutFor(template, zone);
        const states = resolver.mount('preview', layout, inputs);
        const box = { x: 0, y: 0, width, height };
        const item = {
          mount: 'preview',
          zone: 'preview',
          box,
          item: template.key,
          template: template.key,
          layout,
          states,
        };
        stage.show({ output: { key: 'preview', width, height }, items: [item] });
      };
      draw.current();
      const off = desk.onFields((keys) => stage.perform([{ op: 'layers', deltas: resolver.touch(keys) }]));
      stop = () => {
        off();
        stage.destroy();
      };
    });
    return () => {
      closed = true;
      draw.current = () => {};
      stop();
    };
  }, [desk]);

  useScale(frame, root, zone.width);
  return (
    <div ref={frame} className={css['frame']} style={{ aspectRatio: `${zone.width} / ${zone.height}` }}>
      <div ref={root} className={css['stage']} data-picture="preview" />
    </div>
  );
}
