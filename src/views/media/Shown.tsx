import { mediaUrl, smallUrl, type MediaEntry } from '../../core/media/media.ts';

/** A picture or a loop; in a list, small. */
export function Shown({ entry, small = false }: { entry: MediaEntry; small?: boolean }) {
  return entry.type === 'video/webm' ? (
    <video src={mediaUrl(entry)} muted loop autoPlay playsInline />
  ) : (
    <img src={small ? smallUrl(entry) : mediaUrl(entry)} alt="" loading="lazy" />
  );
}
