/** What a measuring function gives for a text at its set size, in the units of the box. */
export interface TextSize {
  width: number;
  height: number;
}

/** A rectangle, in px. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The point of the box from which a text grows and shrinks. */
export interface Anchor {
  x: 'left' | 'centre' | 'right';
  y: 'top' | 'middle' | 'bottom';
}

const SHARE = { left: 0, centre: 0.5, right: 1, top: 0, middle: 0.5, bottom: 1 } as const;

/**
 * The scale that fits a text into a box: `min(boxWidth / textWidth, boxHeight / textHeight)`, at most
 * `largest` (1 by default: never above the set size), never below 0. An empty text fits at `largest`.
 */
export function fitScale(text: TextSize, box: { width: number; height: number }, largest = 1): number {
  const byWidth = text.width > 0 ? box.width / text.width : largest;
  const byHeight = text.height > 0 ? box.height / text.height : largest;
  return Math.max(0, Math.min(byWidth, byHeight, largest));
}

/** One scale for several texts, each in its own box: the smallest, so that none differs in size from the others. */
export function sharedScale(
  texts: { size: TextSize; box: { width: number; height: number } }[],
  largest = 1,
): number {
  return texts.reduce((scale, t) => Math.min(scale, fitScale(t.size, t.box, largest)), largest);
}

/** Where the scaled text's top left corner lies within its box, so that the anchor point stays put. */
export function placeText(
  text: TextSize,
  box: { width: number; height: number },
  anchor: Anchor,
  scale: number,
): { x: number; y: number } {
  return {
    x: (box.width - text.width * scale) * SHARE[anchor.x],
    y: (box.height - text.height * scale) * SHARE[anchor.y],
  };
}
