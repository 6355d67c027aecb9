import {
  useImperativeHandle,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type PointerEvent,
  type ReactNode,
  type Ref,
} from 'react';
import { useRoom } from '../../ui/room.ts';
import type Moveable from 'react-moveable';
import Selecto from 'react-selecto';
import type { Scalar } from '../../core/board/values.ts';
import { layersOf, type GuideLines, type LayerKind, type Layout } from '../../core/layers/kinds.ts';
import type { BoardReader } from '../../core/resolve/dependents.ts';
import { drawn, safeArea, SAFE_AREAS } from '../../core/workshop/boxes.ts';
import type { Box } from '../../core/text/fit.ts';
import { holdersOf } from '../../core/workshop/tree.ts';
import type { Desk } from '../shared/desk.ts';
import { useOwnStage } from '../shared/own-stage.ts';
import type { Carried } from './carried.ts';
import { useDrop } from './drop.ts';
import type { Geometry } from './Changes.tsx';
import { Guides } from './Guides.tsx';
import { Handles, takeAtOnce, type Changed } from '../shared/Handles.tsx';
import { usePan } from './pan.ts';
import css from './Canvas.module.css';

/** What stands behind the graphic. */
export type Behind = 'checker' | 'camera' | 'dark' | 'light';

interface Props {
  desk: Desk;
  layout: Layout;
  inputs: Record<string, Scalar>;
  /** What is read in the place of the live board. */
  board: BoardReader | null;
  chosen: ReadonlySet<string>;
  onChoose: (ids: ReadonlySet<string>) => void;
  /** Layers were moved, resized or rotated, each in what holds it. */
  onChanged: (changes: ReadonlyMap<string, Changed>, text: string) => void;
  /** Layers that cannot be taken hold of. */
  locked: ReadonlySet<string>;
  /** What a drag draws next; null where a drag selects. */
  drawing: LayerKind | null;
  onDrawn: (box: Box) => void;
  /** The group that was entered: its layers are chosen one by one. */
  inside: string | null;
  onEnter: (group: string | null) => void;
  /** Pixels of the screen for each of the layout; null for what fits. */
  zoom: number | null;
  onZoom: (zoom: number) => void;
  behind: Behind;
  safe: boolean;
  /** Rulers and guides are seen, and guides are drawn in by. */
  guides: boolean;
  onGuides: (guides: GuideLines, text: string) => void;
  empty: ReactNode;
  /** The layout as it is by now; and what draws it at once, before the page follows. */
  latest: () => Layout;
  ahead: Ref<() => void>;
  /** What lies over the sheet. */
  over?: ((geometry: Geometry) => ReactNode) | undefined;
  /** Whether what is dragged can be put onto a layer. */
  takes: (id: string, what: Carried | null) => boolean;
  /** Something of the board was dropped: on a layer, or where there is none. */
  onDropped: (what: Carried, id: string | null, at: { x: number; y: number }) => void;
  /** Files of the computer were dropped. */
  onFiles: (files: readonly File[], at: { x: number; y: number }) => void;
}

/** How far a press may move and still be a press, in px of the screen. */
const STILL = 4;

/** How many layers draw a dragged one in: more would cost more than a frame, and those far away are not looked at. */
const NEAREST = 40;

/** The list that was given before, for as long as the new one has the same in it. */
function useSameList<T>(list: readonly T[]): readonly T[] {
  const before = useRef(list);
  if (list.length !== before.current.length || list.some((one, i) => one !== before.current[i]))
    before.current = list;
  return before.current;
}

const NO_GUIDES: GuideLines = { x: [], y: [] };

const round = Math.round;
/** The layout as the stage draws it, with what takes hold of its layers. */
export function Canvas(props: Props) {
  const { desk, layout, inputs, chosen, onChoose, locked, drawing, inside, onEnter, behind, safe } = props;
  const area = useRef<HTMLDivElement>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLDivElement>(null);
  const moveable = useRef<Moveable>(null);
  const room = useRoom(area);
  /** Counts what was drawn anew: what is taken hold of is looked up again. */
  const [drawnAt, setDrawnAt] = useState(0);
  const { width, height } = layout;

  const fit = Math.min((room.width - 48) / width, (room.height - 48) / height) || 1;
  const zoom = props.zoom ?? Math.max(0.02, Math.min(8, fit));

  const onDrawn = () => setDrawnAt((n) => n + 1);
  const { board, latest } = props;
  const ahead = useOwnStage(desk, root, { name: 'workshop', layout, latest, inputs, onDrawn, board });
  useImperativeHandle(props.ahead, () => ahead, [ahead]);

  const elementOf = (id: string) => root.current?.querySelector<HTMLElement>(`[data-id="${id}"]`) ?? null;
  const targets = useSameList(
    useMemo(
      () =>
        [...chosen].flatMap((id) => {
          const el = locked.has(id) ? null : elementOf(id);
          return el?.isConnected && el.offsetParent !== null ? [el] : [];
        }),
      // What is drawn decides, and it is drawn outside of React.
      // oxlint-disable-next-line react/exhaustive-deps
      [chosen, locked, drawnAt],
    ),
  );
  useLayoutEffect(() => moveable.current?.updateRect(), [zoom, drawnAt, room]);
  /** What the chosen ones are drawn in by: the nearest of the other layers. */
  const beside = useMemo(() => {
    if (targets.length === 0) return [];
    const middle = (el: HTMLElement) => {
      const { left, top, width: w, height: h } = el.getBoundingClientRect();
      return { x: left + w / 2, y: top + h / 2, shows: w > 0 && h > 0 };
    };
    const from = middle(targets[0]!);
    return [...root.current!.querySelectorAll<HTMLElement>('[data-id]')]
      .filter((el) => !targets.some((t) => t.contains(el) || el.contains(t)))
      .map((el) => ({ el, at: middle(el) }))
      .filter(({ at }) => at.shows)
      .sort(
        (p, q) => Math.hypot(p.at.x - from.x, p.at.y - from.y) - Math.hypot(q.at.x - from.x, q.at.y - from.y),
      )
      .slice(0, NEAREST)
      .map(({ el }) => el);
  }, [targets]);

  /** The layer under the pointer that a press chooses: of what is inside the group that was entered, else the outermost. */
  const layerAt = (
    event: { target: EventTarget; clientX: number; clientY: number },
    deeper = false,
  ): string[] => {
    const under = document
      .elementsFromPoint(event.clientX, event.clientY)
      .flatMap((el) =>
        root.current?.contains(el)
          ? [(el as HTMLElement).closest<HTMLElement>('[data-id]')?.dataset['id']]
          : [],
      )
      .filter((id): id is string => id !== undefined);
    const ids = under.flatMap((id) => {
      const holders = [...(holdersOf(layout.layers, id) ?? []).map((l) => l.id), id];
      if (deeper) return holders.some((h) => locked.has(h)) ? [] : [id];
      const at = inside === null ? 0 : holders.indexOf(inside) + 1;
      const one = holders[at] ?? id;
      return locked.has(one) ? [] : [one];
    });
    return [...new Set(ids)];
  };

  const pan = usePan(area);

  const press = useRef<{ x: number; y: number; wasChosen: boolean } | null>(null);
  const onPointerDown = (event: PointerEvent) => {
    if (event.button !== 0) return;
    if ((event.target as Element).closest('[data-guide], [data-ruler]')) return;
    // What takes hold of a layer keeps the press for itself: arrow keys are to go on with what was pressed.
    area.current!.focus({ preventScroll: true });
    if (drawing) return;
    if ((event.target as Element).closest('.moveable-control-box')) {
      press.current = { x: event.clientX, y: event.clientY, wasChosen: true };
      return;
    }
    const [id] = layerAt(event, event.altKey);
    press.current = {
      x: event.clientX,
      y: event.clientY,
      wasChosen: id !== undefined && chosen.has(id),
    };
    if (id === undefined) return;
    if (event.shiftKey) {
      const next = new Set(chosen);
      if (!next.delete(id)) next.add(id);
      return onChoose(next);
    }
    if (!chosen.has(id)) {
      onChoose(new Set([id]));
      // It can be dragged with the same press.
      takeAtOnce(moveable, event.nativeEvent);
    }
  };
  const onPointerUp = (event: PointerEvent) => {
    const began = press.current;
    press.current = null;
    if (!began || drawing || event.shiftKey) return;
    const still = Math.hypot(event.clientX - began.x, event.clientY - began.y) < STILL;
    if (!still || !began.wasChosen) return;
    // A press on what is chosen goes on to what lies under it.
    const stack = layerAt(event, event.altKey);
    if (stack.length === 0 || event.detail > 1) return;
    const at = stack.findIndex((id) => chosen.has(id));
    if (chosen.size > 1 || event.ctrlKey || event.metaKey)
      onChoose(new Set([stack[(at + 1) % stack.length]!]));
  };
  const onDoubleClick = (event: React.MouseEvent) => {
    const [id] = layerAt(event);
    const layer = id === undefined ? null : [...layersOf(layout.layers)].find((l) => l.id === id);
    if (!layer) return onEnter(null);
    if (!('layers' in layer)) return;
    onEnter(layer.id);
    const deep = layerAt(event, true)[0];
    if (deep !== undefined) {
      const holders = [...(holdersOf(layout.layers, deep) ?? []).map((l) => l.id), deep];
      const next = holders[holders.indexOf(layer.id) + 1];
      if (next !== undefined) onChoose(new Set([next]));
    }
  };

  const boxOf = (id: string): Box | null => {
    const el = elementOf(id);
    const rect = el?.getBoundingClientRect();
    const from = sheet.current?.getBoundingClientRect();
    if (!rect || !from || rect.width === 0 || rect.height === 0) return null;
    return { x: rect.left - from.left, y: rect.top - from.top, width: rect.width, height: rect.height };
  };
  /** What of the canvas is seen, from the sheet's corner. */
  const around = (): Box => {
    const from = sheet.current!.getBoundingClientRect();
    const seen = area.current!.getBoundingClientRect();
    return {
      x: seen.left - from.left + 4,
      y: seen.top - from.top + 4,
      width: area.current!.clientWidth - 8,
      height: area.current!.clientHeight - 8,
    };
  };
  const point = (event: { clientX: number; clientY: number }) => {
    const { left, top } = sheet.current!.getBoundingClientRect();
    return { x: (event.clientX - left) / zoom, y: (event.clientY - top) / zoom };
  };
  const { target, drop } = useDrop({
    layersAt: (event) => layerAt(event, true),
    takes: props.takes,
    boxOf,
    point,
    onFiles: props.onFiles,
    onDropped: props.onDropped,
  });
  const [frame, setFrame] = useState<{ from: { x: number; y: number }; box: Box } | null>(null);

  return (
    <div
      ref={area}
      className={css['area']}
      // What scrolls has the focus, so that keys reach all of a sheet that is larger than its room.
      tabIndex={0}
      role="application"
      aria-label="Canvas"
      data-canvas
      data-drawing={drawing !== null}
      {...pan}
      {...drop}
      onPointerDown={onPointerDown}
      onPointerUp={onPointerUp}
      onDoubleClick={onDoubleClick}
      onWheel={(event) => {
        if (!event.ctrlKey && !event.metaKey) return;
        props.onZoom(Math.max(0.02, Math.min(8, zoom * (event.deltaY < 0 ? 1.15 : 1 / 1.15))));
      }}
    >
      <div className={css['room']} style={{ width: width * zoom + 48, height: height * zoom + 48 }}>
        <div
          ref={sheet}
          className={css['sheet']}
          data-behind={behind}
          style={{ width: width * zoom, height: height * zoom }}
        >
          <div ref={root} className={css['stage']} style={{ scale: String(zoom) }} data-picture="workshop" />
          {safe &&
            SAFE_AREAS.map(({ name, share }) => {
              const b = safeArea(width * zoom, height * zoom, share);
              return (
                <div
                  key={name}
                  className={css['safe']}
                  style={{ left: b.x, top: b.y, width: b.width, height: b.height }}
                >
                  <span>{name}</span>
                </div>
              );
            })}
          {props.guides && (
            <Guides
              {...{ width, height, zoom }}
              guides={layout.guides ?? NO_GUIDES}
              onGuides={props.onGuides}
            />
          )}
          {frame && (
            <div
              className={css['drawn']}
              style={{
                left: frame.box.x * zoom,
                top: frame.box.y * zoom,
                width: frame.box.width * zoom,
                height: frame.box.height * zoom,
              }}
            />
          )}
          {drawnAt > 0 && props.over?.({ width: width * zoom, height: height * zoom, area: around(), boxOf })}
          {target && (
            <div
              className={css['drawn']}
              style={{ left: target.x, top: target.y, width: target.width, height: target.height }}
            />
          )}
          {layout.layers.length === 0 && <div className={css['empty']}>{props.empty}</div>}
          {targets.length > 0 && !drawing && (
            <Handles
              ref={moveable}
              targets={targets}
              guides={[
                root.current!,
                ...beside,
                ...(sheet.current?.querySelectorAll<HTMLElement>('[data-guide-line]') ?? []),
              ]}
              onChanged={props.onChanged}
            />
          )}
        </div>
      </div>
      {!drawing && (
        <Selecto
          dragContainer={area.current}
          container={area.current}
          selectableTargets={[() => [...(root.current?.querySelectorAll<HTMLElement>('[data-id]') ?? [])]]}
          hitRate={0}
          selectByClick={false}
          selectFromInside={false}
          dragCondition={({ inputEvent }) => {
            const target = (inputEvent as MouseEvent).target as Element;
            return (
              !target.closest('.moveable-control-box, [data-guide], [data-ruler], [data-changes]') &&
              !root.current?.contains(target.closest('[data-id]'))
            );
          }}
          onSelectEnd={({ selected, rect, inputEvent }) => {
            const wide = Math.hypot(rect.width, rect.height) >= STILL;
            const keep = (inputEvent as MouseEvent).shiftKey;
            const found = wide
              ? selected.flatMap((el) => {
                  const id = (el as HTMLElement).dataset['id']!;
                  const holders = holdersOf(layout.layers, id) ?? [];
                  const level = inside === null ? 0 : holders.findIndex((h) => h.id === inside) + 1;
                  return holders.length === level && !locked.has(id) ? [id] : [];
                })
              : [];
            if (!wide && inside !== null) onEnter(null);
            onChoose(new Set([...(keep ? chosen : []), ...found]));
          }}
        />
      )}
      {drawing && (
        <div
          className={css['drawer']}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            const from = point(event);
            setFrame({ from, box: drawn(from, from) });
          }}
          onPointerMove={(event) => {
            if (!frame) return;
            const how = { even: event.shiftKey, centred: event.altKey };
            setFrame({ from: frame.from, box: drawn(frame.from, point(event), how) });
          }}
          onPointerUp={() => {
            if (!frame) return;
            setFrame(null);
            const { x, y, width: w, height: h } = frame.box;
            // A press alone draws one of a usual size.
            props.onDrawn(
              w < 3 && h < 3 ? { x, y, width: round(width / 4), height: round(height / 4) } : frame.box,
            );
          }}
          onPointerCancel={() => setFrame(null)}
        />
      )}
    </div>
  );
}
