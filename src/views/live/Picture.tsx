import { useEffect, useRef } from 'react';
import type { Layout } from '../../core/layers/kinds.ts';
import { useStable } from '../../ui/stable.ts';
import { laneKey, type Lane, type Output } from '../../core/show/show.ts';
import type { Traced } from '../../core/trace/traced.ts';
import css from './Picture.module.css';

/** The output's true picture, drawn by the stage as on the air page, over a stand-in for the camera's. */
export function Picture({
  output,
  lanes,
  nameOf,
  zones,
  under,
  layouts,
  onTrace,
}: {
  output: Output;
  lanes: readonly Lane[];
  nameOf: (item: string) => string;
  zones: boolean;
  /** The zone whose lane is under the keys; null for none here. */
  under: string | null;
  /** Of all that is on or can be taken here: what they are written in is loaded first. */
  layouts: () => readonly Layout[];
  /** A layer of the picture was chosen. */
  onTrace: (of: Traced) => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLDivElement>(null);

  const first = useStable(layouts);
  useEffect(() => {
    let closed = false;
    let close = () => {};
    // What draws comes after what stands around it: on a slow line the view need not wait for it.
    void import('../shared/air-picture.ts').then(({ airPicture }) => {
      if (!closed) close = airPicture(root.current!, output.key, first());
    });
    return () => {
      closed = true;
      close();
    };
  }, [output.key, first]);

  useScale(frame, root, output.width);

  return (
    <div
      ref={frame}
      className={css['frame']}
      style={{ aspectRatio: `${output.width} / ${output.height}` }}
      role="group"
      aria-label="What is on air"
    >
      <div
        ref={root}
        className={css['stage']}
        data-picture="air"
        onClick={(e) => {
          const id = (e.target as Element).closest<HTMLElement>('[data-id]')?.dataset['id'];
          const item = (e.target as Element).closest<HTMLElement>('[data-item]')?.dataset['item'];
          const lane = lanes.find((l) => l.output === output.key && l.onAir?.item === item);
          if (id && item && lane) onTrace({ layer: { mount: laneKey(lane), id } });
        }}
      />
      {output.zones.map((z) => {
        if (!zones && z.key !== under) return null;
        const on = lanes.find((l) => laneKey(l) === laneKey({ output: output.key, zone: z.key }))?.onAir;
        const percent = (n: number, of: number) => `${(n / of) * 100}%`;
        return (
          <div
            key={z.key}
            className={z.key === under ? css['under'] : css['zone']}
            data-zone={z.key}
            style={{
              left: percent(z.x, output.width),
              top: percent(z.y, output.height),
              width: percent(z.width, output.width),
              height: percent(z.height, output.height),
            }}
          >
            {zones && (
              <span>
                {z.name}: {on ? nameOf(on.item) : 'nothing'}
              </span>
            )}
          </div>
        );
      })}
    </div>
  );
}

/** Keeps the stage, `width` px wide in itself, as wide as its frame. */
export function useScale(
  frame: React.RefObject<HTMLElement | null>,
  root: React.RefObject<HTMLElement | null>,
  width: number,
): void {
  useEffect(() => {
    const fit = () => {
      if (!frame.current || !root.current) return;
      root.current.style.transform = `scale(${frame.current.clientWidth / width})`;
    };
    const observer = new ResizeObserver(fit);
    observer.observe(frame.current!);
    fit();
    return () => observer.disconnect();
  }, [frame, root, width]);
}
