import { differences } from '../../core/document/merge.ts';
import { Button } from '../../ui/Button.tsx';
import type { Editing } from './editing.ts';
import css from './SavedElsewhere.module.css';

/** As many changes are told in words. */
const TOLD = 3;

/** Says what another desk saved while this is being changed, and lets the person choose where both changed the same thing. */
export function SavedElsewhere<T extends object>({
  editing,
  onKeep,
}: {
  editing: Editing<T>;
  /** Saves what is here in the place of what stands. */
  onKeep: () => void;
}) {
  const { elsewhere, clash, base, saved, discard } = editing;
  if (!elsewhere && !clash) return null;
  const said = differences(base, saved);
  const told = said.slice(0, TOLD).join('; ');
  return (
    <div role="alert" className={css['notice']}>
      <p>
        {clash ?? (
          <>
            Saved at another desk meanwhile: {told}
            {said.length > TOLD && `; and ${said.length - TOLD} more`}. Save keeps both.
          </>
        )}
      </p>
      {clash && (
        <Button main onClick={onKeep}>
          Keep mine
        </Button>
      )}
      <Button onClick={discard}>Take theirs</Button>
    </div>
  );
}
