import { Button } from '../../ui/Button.tsx';
import type { Seen } from '../shared/View.tsx';
import css from './LiveView.module.css';

/** The test cards that are on: over what the audience should see, so that none is left on unseen. */
export function TestCards({ desk, snapshot }: Seen) {
  const { cards, documents } = snapshot;
  return documents.output
    .filter((o) => cards.includes(o.key))
    .map(({ key, name }) => (
      <p key={key} role="alert" className={css['card']}>
        Test card on {name}
        <Button main onClick={() => void desk.act({ kind: 'test-card', output: key, on: false })}>
          Take it off
        </Button>
      </p>
    ));
}
