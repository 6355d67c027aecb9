import { mediaUrl, smallUrl, type MediaEntry } from '../../core/media/media.ts';

/** A picture or a loop of the library as it stands in a list to choose from, with its folder and its name. */
export function Thumb({ entry }: { entry: MediaEntry }) {
  return (
    <>
      {entry.type === 'video/webm' ? (
        <video src={mediaUrl(entry)} muted playsInline />
      ) : (
        <img src={smallUrl(entry)} alt="" loading="lazy" draggable={false} />
      )}
      <span>{entry.path.split('/').slice(-2).join('/')}</span>
    </>
  );
}
