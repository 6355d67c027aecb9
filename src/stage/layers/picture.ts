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

type Shown = HTMLImageElement | HTMLVideoElement;

export class PictureView extends LayerView<'picture'> {
  private there: Shown | null = null;
  private wanted = '';

  /** The new picture takes the old one's place once it is decoded; one that cannot be had changes nothing. */
  protected override draw(props: LayerProps): void {
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
    this.ready = this.loaded(path).then(
      (next) => {
        if (path !== this.wanted) return;
        this.fitted(next);
        this.el.append(next);
        this.there?.remove();
        this.there = next;
        if (next instanceof HTMLVideoElement) void next.play().catch(() => {});
        this.changed();
      },
      () => {},
    );
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
      const start = numberIn(this.props['start']) / 1000;
      if (start > 0) loop.currentTime = start;
      return loop;
    }
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
