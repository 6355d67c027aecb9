import { useRef } from 'react';
import type { Layout } from '../../core/layers/kinds.ts';
import type { Lane, Output } from '../../core/show/show.ts';
import type { Traced } from '../../core/trace/traced.ts';
import { useRememberedList } from '../../ui/remembered.ts';
import { arrowOf } from '../../ui/keys.ts';
import { Picture } from './Picture.tsx';
import css from './Picture.module.css';

/** No picture is smaller than this, in percent of what there is room for. */
const LEAST = 15;

/** The pictures of some outputs, each as wide as the operator made it. */
export function Pictures({
  outputs,
  ...rest
}: {
  outputs: readonly Output[];
  lanes: readonly Lane[];
  nameOf: (item: string) => string;
  zones: boolean;
  under: { output: string; zone: string } | null;
  layouts: () => readonly Layout[];
  onTrace: (of: Traced) => void;
}) {
  const [sizes, setSizes] = useRememberedList('picture-sizes');
  const sizeOf = (key: string) =>
    Number(sizes.find((s) => s.startsWith(`${key}=`))?.slice(key.length + 1) ?? 100);
  const setSize = (key: string, size: number) => {
    const kept = Math.round(Math.min(100, Math.max(LEAST, size)));
    setSizes([...sizes.filter((s) => !s.startsWith(`${key}=`)), `${key}=${kept}`]);
  };
  return (
    <div className={css['pictures']}>
      {outputs.map((output) => (
        <Sized
          key={output.key}
          name={output.name}
          size={sizeOf(output.key)}
          onSize={(size) => setSize(output.key, size)}
        >
          <Picture
            {...rest}
            output={output}
            under={rest.under?.output === output.key ? rest.under.zone : null}
          />
        </Sized>
      ))}
      {outputs.length === 0 && (
        <p className={css['none']}>No picture is shown. The eye at an output shows its picture here.</p>
      )}
    </div>
  );
}

/** A picture with an edge at its right by which it is made larger and smaller. */
function Sized({
  name,
  size,
  onSize,
  children,
}: {
  name: string;
  size: number;
  onSize: (size: number) => void;
  children: React.ReactNode;
}) {
  const figure = useRef<HTMLElement>(null);
  return (
    <figure ref={figure} style={{ width: `${size}%` }}>
      {children}
      <div
        className={css['edge']}
        role="separator"
        aria-orientation="vertical"
        aria-label={`Size of the picture of ${name}`}
        aria-valuemin={LEAST}
        aria-valuemax={100}
        aria-valuenow={size}
        tabIndex={0}
        onKeyDown={(event) => {
          const [across] = arrowOf(event) ?? [0];
          if (!across) return;
          event.preventDefault();
          onSize(size + across);
        }}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={(event) => {
          if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
          const { left } = figure.current!.getBoundingClientRect();
          onSize(((event.clientX - left) / figure.current!.parentElement!.clientWidth) * 100);
        }}
      />
    </figure>
  );
}
