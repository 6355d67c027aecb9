import { OneOf, Text } from '../document/rules.ts';
import { action } from './action.ts';
import { ActionRequest } from './request.ts';
import { bundleEdits, refuseOverParts } from './saving.ts';
import { knownSource } from './situation.ts';
import { refuseInRehearsal } from './source.ts';

class RemoveSourceRequest extends ActionRequest {
  @OneOf('remove-source') kind!: 'remove-source';
  @Text(1, 80) source!: string;
}

/** Deletes a source with what belongs to it. */
export const removeSource = action({
  request: RemoveSourceRequest,
  role: 'connect',
  decide: (now, { source }) => {
    refuseInRehearsal(now);
    refuseOverParts(now.world, source);
    return { change: { edits: bundleEdits(knownSource(now, source), null) } };
  },
  sentence: ({ sources }, { source }) =>
    `Deleted the source ${sources.bundle(source)?.source.name ?? source}`,
});
