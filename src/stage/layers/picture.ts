import type { LayerProps } from '../../core/layers/kinds.ts';
import { LayerView } from './base.ts';
import { SHARE, type Box } from '../../core/text/fit.ts';
import type { FieldValue } from '../../core/board/values.ts';
import { has, numberIn, textIn } from './content.ts';
import type { MaskImage } from './mask.ts';

const FIT = { contain: 'contain', cover: 'cover', stretch: 'fill' } as const;
/** How far along its box a picture is anchored, as a share. */
const shareOf = (anchor: FieldValue | undefined) => SHARE[textIn(anchor) as keyof typeof SHARE] ?? 0.5;

/** Where a picture of its own size stands in the box of its layer, in px. */
export function fittedIn(props: LayerProps, own: { width: number; height: number }): Box {
  const box = { width: numberIn(props['width']), height: numberIn(props['height']) };
  const { fit, anchorX, anchorY } = props;
  const sides = [box.width / own.width, box.height / own.height] as const;
  const scale = fit === 'cover' ? Math.max(...sides) : Math.min(...sides);
  const size = fit === 'stretch' ? box : { width: own.width * scale, height: own.height * scale };
  return {
    x: (box.width - size.width) * shareOf(anchorX),
    y: (box.height - size.height) * shareOf(anchorY),
    ...size,
  };
}

/** A loop that began at most so long ago, in s, is shown from its start: it took that long to come. */
const FROM_START = 0.6;
/** How far a loop may be from where it should be, in s, and by how much it runs faster or slower where it is farther. */
const IN_STEP = 0.02;
const CATCH_UP = 0.08;
/** How far, in s, it may be before it jumps there; not again for so long, in s, for a jump takes its time. */
const OUT_OF_STEP = 0.2;
const BETWEEN_JUMPS = 3;

type Shown = HTMLImageElement | HTMLVideoElement;

export class PictureView extends LayerView<'picture'> {
  private there: Shown | null = null;
  private wanted = '';

  /** The new picture takes the old one's place once it is decoded; one that cannot be had changes nothing. */
  protected override draw(props: LayerProps, now: number): void {
    if (this.there && has(props, ['fit', 'anchorX', 'anchorY', 'again'])) this.fitted(this.there);
    if (!('picture' in props)) return;
    this.wanted = textIn(props['picture']);
    if (!this.wanted.startsWith('/media/')) {
      this.there?.remove();
      this.there = null;
      this.changed();
      return;
    }
    const path = this.wanted;
    const { since } = this.props;
    // A picture that came with the item is as old as that; one that took its place since then, as its own change.
    const age = this.age(now, typeof since === 'number' ? since : undefined);
    const begun = this.mount.real() - age;
    this.ready = this.loaded(path).then(
      (next) => {
        if (path !== this.wanted) return;
        this.fitted(next);
        if (next instanceof HTMLVideoElement) this.inStep(next, begun);
        this.body.append(next);
        this.there?.remove();
        this.there = next;
        this.run();
        this.changed();
      },
      () => {},
    );
  }

  override rest(now: number): void {
    super.rest(now);
    this.run();
  }

  /** Lets a loop run, or stand while it is quiet. */
  private run(): void {
    const { there } = this;
    if (!(there instanceof HTMLVideoElement)) return;
    if (this.mount.still()) there.pause();
    else void there.play().catch(() => {});
  }

  /** What is at an address, ready to be shown: a picture, or a loop where it is none. */
  private async loaded(path: string): Promise<Shown> {
    const picture = new Image();
    picture.alt = '';
    picture.src = path;
    try {
      await picture.decode();
      return picture;
    } catch {
      const loop = document.createElement('video');
      Object.assign(loop, { muted: true, playsInline: true, preload: 'auto', src: path });
      await new Promise((done, failed) => {
        loop.onloadeddata = done;
        loop.onerror = failed;
      });
      // One that was recorded as it ran does not say how long it is until somebody looks for its end.
      if (loop.duration === Infinity)
        await new Promise((done) => {
          loop.onseeked = done;
          loop.currentTime = Number.MAX_SAFE_INTEGER;
        });
      return loop;
    }
  }

  /** Keeps a loop where all pages have it: where it is by the time since it began (server ms). */
  private inStep(loop: HTMLVideoElement, begun: number): void {
    const start = numberIn(this.props['start']) / 1000;
    const old = () => (this.mount.real() - begun) / 1000;
    const late = () => {
      const { duration, currentTime } = loop;
      const after = start + old();
      const at = after < duration ? after : this.props['again'] === false ? duration : after % duration;
      return at - currentTime;
    };
    // What has just begun is seen from its beginning, and is in step a little later.
    if (old() < FROM_START) loop.currentTime = start;
    else loop.currentTime += late();
    if (this.mount.item.since === undefined) return;
    let jumped = old();
    /** How long it stands when it jumps, in s. */
    let jumpTime = 0;
    loop.onseeked = () => (jumpTime = Math.min(0.5, old() - jumped));
    loop.ontimeupdate = () => {
      const by = late();
      const off = Math.abs(by);
      // Where it begins again the way around may be the shorter one: the next look knows.
      if (off > loop.duration / 2) return;
      if (off > OUT_OF_STEP && old() - jumped > BETWEEN_JUMPS) {
        jumped = old();
        loop.currentTime = (loop.currentTime + by + jumpTime) % loop.duration;
      } else loop.playbackRate = off < IN_STEP ? 1 : by > 0 ? 1 + CATCH_UP : 1 - CATCH_UP;
    };
  }

  override maskImage(): MaskImage | null {
    if (!this.there) return null;
    const own =
      this.there instanceof HTMLVideoElement
        ? { width: this.there.videoWidth, height: this.there.videoHeight }
        : { width: this.there.naturalWidth, height: this.there.naturalHeight };
    return { image: `url("${encodeURI(this.wanted)}")`, ...fittedIn(this.props, own) };
  }

  private fitted(shown: Shown): void {
    const { fit, anchorX, anchorY, again } = this.props;
    Object.assign(shown.style, {
      position: 'absolute',
      width: '100%',
      height: '100%',
      objectFit: FIT[textIn(fit) as keyof typeof FIT] ?? 'contain',
      objectPosition: `${100 * shareOf(anchorX)}% ${100 * shareOf(anchorY)}%`,
    });
    if (shown instanceof HTMLVideoElement) shown.loop = again !== false;
  }
}
