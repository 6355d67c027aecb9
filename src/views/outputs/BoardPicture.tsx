import { useEffect, useRef, useState } from 'react';
import { useRoom } from '../../ui/room.ts';
import Moveable from 'react-moveable';
import type { Layout } from '../../core/layers/kinds.ts';
import type { Output } from '../../core/show/show.ts';
import { coversAll, type Coverage } from '../../core/show/zones.ts';
import type { Box } from '../../core/text/fit.ts';
import { useStable } from '../../ui/stable.ts';
import { airPicture } from '../shared/air-picture.ts';
import { Handles, takeAtOnce } from '../shared/Handles.tsx';
import css from './OutputsView.module.css';

/** An output as it is on air, with its zones on it as they are being changed: chosen, moved and sized by hand. */
export function BoardPicture({
  output,
  saved,
  lie,
  layouts,
  chosen,
  onChoose,
  onBox,
}: {
  output: Output;
  /** As it is saved: what is on air is drawn by that. */
  saved: Output;
  lie: Coverage;
  /** Of all that can be on it: what they are written in is loaded first. */
  layouts: () => readonly Layout[];
  chosen: string | null;
  onChoose: (zone: string | null) => void;
  onBox: (zone: string, box: Partial<Box>, text: string) => void;
}) {
  const room = useRef<HTMLDivElement>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const air = useRef<HTMLDivElement>(null);
  const hands = useRef<Moveable>(null);
  const [target, setTarget] = useState<HTMLElement[]>([]);
  const { width, height } = output;

  const space = useRoom(room);
  const scale = Math.max(0, Math.min((space.width - 40) / width, (space.height - 40) / height));
  const first = useStable(layouts);
  useEffect(() => airPicture(air.current!, saved.key, first()), [saved.key, first]);
  const zones = () => [...(sheet.current?.querySelectorAll<HTMLElement>('[data-id]') ?? [])];
  useEffect(() => {
    setTarget(zones().filter((el) => el.dataset['id'] === chosen));
  }, [chosen, output.zones.length]);
  useEffect(() => {
    hands.current?.updateRect();
  }, [output, scale]);

  return (
    <div
      ref={room}
      className={css['room']}
      tabIndex={0}
      role="group"
      aria-label="The zones on the picture"
      onPointerDown={(e) => {
        // What takes hold of a zone keeps the press for itself: arrow keys are to go on with it.
        room.current?.focus({ preventScroll: true });
        const on = (e.target as Element).closest<HTMLElement>('[data-id]')?.dataset['id'];
        if (on !== undefined) {
          onChoose(on);
          // Pressed and pulled in one go: it is taken hold of as soon as it is the one that is held.
          if (on !== chosen) takeAtOnce(hands, e.nativeEvent);
        } else if (!(e.target as Element).closest('.moveable-control-box')) onChoose(null);
      }}
    >
      <div className={css['sheet']} style={{ width: width * scale, height: height * scale }}>
        <div className={css['scaled']} style={{ transform: `scale(${scale})`, width, height }}>
          <div ref={air} className={css['air']} aria-hidden />
          <div ref={sheet}>
            {output.zones.map((zone) => (
              <div
                key={zone.key}
                data-id={zone.key}
                className={css['zone']}
                data-chosen={zone.key === chosen || undefined}
                data-all={coversAll(output, zone) || undefined}
                data-outside={lie.outside.includes(zone.key) || undefined}
                style={{
                  left: zone.x,
                  top: zone.y,
                  width: zone.width,
                  height: zone.height,
                  borderWidth: 1.5 / scale,
                }}
              >
                <span style={{ transform: `scale(${1 / (scale || 1)})`, maxWidth: zone.width * scale }}>
                  <b>{zone.name}</b> {zone.width} × {zone.height}
                </span>
              </div>
            ))}
          </div>
        </div>
        {/* Not in the scaled picture: their lines are as far apart on any board. */}
        <Marks name="gap" boxes={lie.gaps} scale={scale} />
        <Marks name="overlap" boxes={lie.overlaps.map((o) => o.box)} scale={scale} />
        <Handles
          ref={hands}
          targets={target}
          guides={[
            ...(sheet.current ? [sheet.current.parentElement!] : []),
            ...zones().filter((el) => !target.includes(el)),
          ]}
          rotates={false}
          onChanged={(changes, text) => {
            for (const [key, box] of changes) onBox(key, box, text);
          }}
        />
      </div>
    </div>
  );
}

/** As many are drawn: more than can be told apart. */
const MOST_MARKS = 200;

/** What no zone covers, or more than one, hatched. */
function Marks({ name, boxes, scale }: { name: 'gap' | 'overlap'; boxes: readonly Box[]; scale: number }) {
  return boxes
    .slice(0, MOST_MARKS)
    .map(({ x, y, width, height }, i) => (
      <i
        key={i}
        className={css['mark']}
        data-mark={name}
        style={{ left: x * scale, top: y * scale, width: width * scale, height: height * scale }}
      />
    ));
}
