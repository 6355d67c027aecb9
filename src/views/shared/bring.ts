import type { MediaEntry } from '../../core/media/media.ts';
import type { Desk } from './desk.ts';
import { deskHeader } from './identity.ts';

/** The files that the library takes, as a file chooser names them. */
export const FONT_FILES = '.ttf,.otf,.woff2';
export const FILES = `.png,.jpg,.jpeg,.webp,.gif,.svg,.webm,${FONT_FILES}`;

/** True for a font's file, by its name. */
export const isFontFile = (name: string) => /\.(ttf|otf|woff2)$/i.test(name);

type Brought = { entry: MediaEntry } | { problem: string };

/** Brings one file into the media library under a path; gives what it is there, or why not. */
export async function brought(desk: Desk, file: Blob, name: string, path: string): Promise<Brought> {
  try {
    const response = await fetch(`/api/media?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      headers: deskHeader(),
      body: file,
    });
    const answer = (await response.json()) as { ok: boolean; reason?: string; about?: MediaEntry };
    if (!answer.ok || !answer.about) return { problem: answer.reason ?? `${name} was refused.` };
    const entry = { ...answer.about, path };
    const done = await desk.act({ kind: 'media', path, entry });
    return done.ok ? { entry } : { problem: done.text };
  } catch {
    return { problem: `${name} did not reach the server.` };
  }
}

/** Brings one file into the media library under a path; gives why not, null where it is there. */
export async function bringFile(desk: Desk, file: Blob, name: string, path: string): Promise<string | null> {
  const done = await brought(desk, file, name, path);
  return 'problem' in done ? done.problem : null;
}

/** Brings a font into the media library's folder of fonts; gives its family, or why not. */
export async function bringFont(desk: Desk, file: File): Promise<{ family: string } | { problem: string }> {
  const done = await brought(desk, file, file.name, `fonts/${file.name}`);
  if ('problem' in done) return done;
  return done.entry.face ? { family: done.entry.face.family } : { problem: `${file.name} is not a font.` };
}
