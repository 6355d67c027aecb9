import type { MediaEntry } from '../../core/media/media.ts';
import type { Desk } from './desk.ts';

/** Brings one file into the media library under a path; gives why not, null where it is there. */
export async function bringFile(desk: Desk, file: Blob, name: string, path: string): Promise<string | null> {
  try {
    const response = await fetch(`/api/media?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      body: file,
    });
    const answer = (await response.json()) as { ok: boolean; reason?: string; about?: MediaEntry };
    if (!answer.ok || !answer.about) return answer.reason ?? `${name} was refused.`;
    const done = await desk.act({ kind: 'media', path, entry: { ...answer.about, path } });
    return done.ok ? null : done.text;
  } catch {
    return `${name} did not reach the server.`;
  }
}
