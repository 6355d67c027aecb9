import css from './MediaView.module.css';
import { mediaUrl, smallUrl, type MediaEntry } from '../../core/media/media.ts';

/** A picture, a loop or the look of a font; in a list, small. */
export function Shown({ entry, small = false }: { entry: MediaEntry; small?: boolean }) {
  if (entry.face) {
    const { family, weights } = entry.face;
    return (
      <span
        className={css['letters']}
        data-small={small}
        style={{ fontFamily: `"${family}"`, fontWeight: weights[0] }}
      >
        {small ? 'Ag 12' : 'AaBbGgQq 0123456789 ŁÉßøжω'}
      </span>
    );
  }
  return entry.type === 'video/webm' ? (
    <video src={mediaUrl(entry)} muted loop autoPlay playsInline />
  ) : (
    <img src={small ? smallUrl(entry) : mediaUrl(entry)} alt="" loading="lazy" />
  );
}
