import { useState, type DragEvent } from 'react';
import type { Box } from '../../core/text/fit.ts';
import { carriedIn, carriesValue, type Carried } from './carried.ts';

interface Place {
  x: number;
  y: number;
}

/** What is dragged over the canvas from the lists beside it or from the computer, and what it would fall on. */
export function useDrop({
  layersAt,
  takes,
  boxOf,
  point,
  onFiles,
  onDropped,
}: {
  /** The ids of the layers there, the deepest first. */
  layersAt: (event: DragEvent) => string[];
  /** Whether a layer takes it; null: anything. */
  takes: (id: string, what: Carried | null) => boolean;
  /** Where a layer is seen, in px of the screen. */
  boxOf: (id: string) => Box | null;
  /** Where that is in the layout. */
  point: (event: DragEvent) => Place;
  onFiles: (files: readonly File[], at: Place) => void;
  onDropped: (what: Carried, id: string | null, at: Place) => void;
}) {
  /** The layer that a drop goes to: the deepest there, for a group takes less than what it holds. */
  const dropAt = (event: DragEvent, what: Carried | null): string | null =>
    layersAt(event).find((id) => takes(id, what)) ?? null;
  const [target, setTarget] = useState<Box | null>(null);
  return {
    target,
    drop: {
      onDragOver: (event: DragEvent) => {
        const files = event.dataTransfer.types.includes('Files');
        if (!files && !carriesValue(event.dataTransfer)) return;
        event.preventDefault();
        event.dataTransfer.dropEffect = 'copy';
        if (files) return;
        // While it is dragged a browser does not say what is: any layer that takes something is shown.
        const id = dropAt(event, null);
        setTarget(id === null ? null : boxOf(id));
      },
      onDragLeave: () => setTarget(null),
      onDrop: (event: DragEvent) => {
        setTarget(null);
        const files = [...event.dataTransfer.files];
        const what = files.length ? null : carriedIn(event.dataTransfer);
        if (files.length || what) event.preventDefault();
        if (files.length) return onFiles(files, point(event));
        if (what) onDropped(what, dropAt(event, what), point(event));
      },
    },
  };
}
