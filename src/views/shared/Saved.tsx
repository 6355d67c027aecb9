import { Button } from '../../ui/Button.tsx';
import type { DocumentSession } from './document-session.ts';
import css from './Saved.module.css';

/** Whether what was done is kept, and what can be done where it is not. */
export function Saved({
  work,
  onAir,
}: {
  work: Pick<DocumentSession<object>, 'saving' | 'note' | 'save' | 'takeTheirs'>;
  onAir: string[];
}) {
  const { saving, note } = work;
  return (
    <span className={css['saved']} role="status" aria-label="Saving" data-state={saving.state}>
      {saving.state === 'saved' && 'Saved'}
      {saving.state === 'saving' && 'Saving…'}
      {saving.state === 'waiting' &&
        (onAir.length ? (
          <>
            On air in {onAir.join('; ')}: what you change shows there once you save it.{' '}
            <Button main shortcut="Ctrl+S" onClick={() => work.save()}>
              Save to air
            </Button>
          </>
        ) : (
          'Saving…'
        ))}
      {saving.state === 'not saved' && (
        <>
          <b>Not saved:</b> {saving.why}
          {saving.clash ? (
            <>
              <Button onClick={() => work.save(true)}>Keep mine</Button>
              <Button onClick={work.takeTheirs}>Take theirs</Button>
            </>
          ) : (
            <Button onClick={() => work.save()}>Try again</Button>
          )}
        </>
      )}
      {note && <em>{note}</em>}
    </span>
  );
}
