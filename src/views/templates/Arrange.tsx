import type { Layer } from '../../core/layers/kinds.ts';
import { distributed, EDGES, type Edge } from '../../core/workshop/boxes.ts';
import { holds } from '../../core/workshop/tree.ts';
import { Button } from '../../ui/Button.tsx';
import { nameOf, type Operations } from './operations.ts';
import css from './WorkshopView.module.css';

/** What is done with chosen layers as a whole. */
export function Arrange({ layers, ops }: { layers: readonly Layer[]; ops: Operations }) {
  return (
    <div className={css['arrange']} role="toolbar" aria-label="Arrange">
      <h3>{nameOf(layers)}</h3>
      <span>
        {EDGES.map((edge) => (
          <Button
            key={edge}
            onClick={() => ops.align(edge)}
            aria-label={`Align ${edge}`}
            data-tip={`Align ${edge}${layers.length > 1 ? '' : ' of the layout'}`}
          >
            <EdgeSign edge={edge} />
          </Button>
        ))}
      </span>
      {layers.length > 2 && (
        <span>
          <Button onClick={() => ops.arrange('Spread', (b) => distributed(b, 'across'))}>
            Equal gaps across
          </Button>
          <Button onClick={() => ops.arrange('Spread', (b) => distributed(b, 'down'))}>Down</Button>
        </span>
      )}
      <span>
        <Button onClick={() => ops.order('front')} data-tip="Ctrl+Shift+]">
          To front
        </Button>
        <Button onClick={() => ops.order('back')} data-tip="Ctrl+Shift+[">
          To back
        </Button>
        <Button onClick={() => ops.group()} data-tip="Ctrl+G">
          Group
        </Button>
      </span>
      {layers.length > 1 && (
        <span>
          <Button onClick={() => ops.group('one-of')} data-tip="A group of which only one shows">
            Only one of them shows
          </Button>
        </span>
      )}
      <span>
        <Button
          onClick={() => ops.duplicate()}
          data-tip="Ctrl+D; once a copy was moved, the next goes as much further. Ctrl+Shift+D: in its place"
        >
          Duplicate
        </Button>
        <Button onClick={ops.remove}>Delete</Button>
        {layers.some((l) => holds(l)) && (
          <Button onClick={ops.ungroup} data-tip="Ctrl+Shift+G">
            Ungroup
          </Button>
        )}
      </span>
    </div>
  );
}

/** An edge that things are aligned by, as a sign: where the line is, the two boxes stand. */
function EdgeSign({ edge }: { edge: Edge }) {
  const across = EDGES.indexOf(edge) < 3;
  const at = EDGES.indexOf(edge) % 3;
  const boxes = [8, 12].map((long, i) => ({
    long,
    from: [2, (16 - long) / 2, 14 - long][at]!,
    thick: 3 + i * 6,
  }));
  const line = [1, 8, 15][at]!;
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden>
      <path d={across ? `M${line} 0V16` : `M0 ${line}H16`} stroke="currentColor" strokeWidth="1.5" />
      {boxes.map(({ long, from, thick }) => (
        <rect
          key={long}
          fill="currentColor"
          {...(across
            ? { x: from, y: thick, width: long, height: 4 }
            : { x: thick, y: from, width: 4, height: long })}
        />
      ))}
    </svg>
  );
}
