import { isRecord } from '../board/own.ts';
import { Maybe, Must, OneOf, OrNull, Text } from '../document/rules.ts';
import { parseMediaChange } from '../media/media-doc.ts';
import { inPlaceOf, type MediaChange, type MediaEntry } from '../media/media.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';

class MediaRequest extends ActionRequest {
  @OneOf('media') kind!: 'media';
  @Text(1, 200) path!: string;
  /** What is to stand there; null takes it away. */
  @Maybe() @OrNull() @Must('object', isRecord, 'must be an object') entry?: MediaEntry | null;
}

/** Puts an entry of the media library in its place, or takes one away. */
export const media = action({
  request: MediaRequest,
  role: 'prepare',
  prepare: ({ library }, request) => library.trueEntries(request),
  decide: ({ library }, { path, entry = null }) => {
    const was = library.index.at(path) ?? null;
    if (!entry && !was) refuse(`The library has no "${path}"; it may have been deleted.`);
    const read = readChange({ path, entry }).entry;
    return { change: { edits: [edit('media', path, was, read && inPlaceOf(read, was))] } };
  },
  sentence: (_, { path, entry }) =>
    entry ? `Put ${path} into the library` : `Took ${path} out of the library`,
});

/** Reads a change of the library as a request has it. Throws a Refusal where it is none. */
export function readChange(input: unknown): MediaChange {
  const parsed = parseMediaChange(input);
  return parsed.ok ? parsed.value : refuse(`This cannot be kept: ${parsed.problems.join('; ')}.`);
}
