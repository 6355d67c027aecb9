import { useState } from 'react';
import { withRunning } from '../../core/board/running.ts';
import { neverQuiet, QUIET } from '../../core/show/quiet.ts';
import { LONGEST_WAIT, type Edge, type Trigger } from '../../core/show/trigger.ts';
import { freshKey } from '../../core/text/keys.ts';
import { valueInWords, type Value } from '../../core/value/value.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import { Switch } from '../../ui/Switch.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import { orderOf } from '../shared/rundown.ts';
import { Refused } from '../shared/Said.tsx';
import { scopeOf } from '../shared/scope.ts';
import { useDesk, useKnown } from '../shared/use-desk.ts';
import type { Seen } from '../shared/View.tsx';
import { ValueEditor } from '../value/ValueEditor.tsx';
import type { ValueContext } from '../value/context.ts';
import { saveDocument } from '../shared/save.ts';
import shell from '../shared/View.module.css';
import css from './RulesDialog.module.css';

const EDGES: Record<Edge, string> = {
  true: 'becomes true',
  rise: 'becomes larger',
  change: 'changes',
};

/** A value that nobody wrote yet. */
const NOTHING: Value = { fixed: '' };
const isNothing = (value: Value | null) => value !== null && 'fixed' in value && value.fixed === '';

/** What Foothill does by itself: triggers, and when it is quiet. */
export function RulesDialog({ desk, snapshot, onClose }: Seen & { onClose: () => void }) {
  const { trigger: triggers, item: items } = snapshot.documents;
  const [edited, edit] = useState<Trigger | null>(null);
  const context = useRuleContext(desk, snapshot);
  const nameOf = (key: string) => items.find((i) => i.key === key)?.name ?? `${key}, which is gone`;
  const begin = () => {
    const key = freshKey('trigger', (k) => triggers.some((t) => t.key === k), 'trigger');
    const item = orderOf(snapshot)[0]?.key ?? '';
    edit({
      ...{ schema: 1, key, name: 'New trigger', on: true, when: NOTHING },
      ...{ edge: 'true', item, wait: 0, once: false, only: null },
    });
  };
  return (
    <Dialog wide title="Rules" onClose={onClose} actions={<Button onClick={onClose}>Close</Button>}>
      <div className={css['rules']}>
        <QuietRule desk={desk} snapshot={snapshot} context={context} />
        <section aria-label="Triggers">
          <h3>Triggers</h3>
          <p className={shell['dim']}>
            A trigger takes an item by itself when the data says so. Corrections by hand do not set it off.
          </p>
          <ul>
            {triggers.map((t) => (
              <li key={t.key} data-trigger={t.key}>
                <Switch
                  on={t.on}
                  label={`${t.name} on`}
                  onChange={(on) => void saveDocument(desk, 'trigger', { ...t, on })}
                />
                <span>
                  <b>{t.name}</b>
                  <small>
                    When {valueInWords(t.when)} {EDGES[t.edge]}
                    {t.wait > 0 && `, after ${t.wait} s`}: {nameOf(t.item)}
                    {t.only && `, only while ${valueInWords(t.only)}`}
                    {t.once && ', once'}
                  </small>
                </span>
                <Button aria-label={`Edit ${t.name}`} onClick={() => edit(t)}>
                  Edit
                </Button>
                <ConfirmButton
                  says={`${t.name} goes.`}
                  onYes={() => {
                    if (edited?.key === t.key) edit(null);
                    void desk.act({ kind: 'remove-document', what: 'trigger', key: t.key });
                  }}
                />
              </li>
            ))}
            {triggers.length === 0 && <li className={shell['dim']}>No triggers yet.</li>}
          </ul>
          {edited ? (
            <TriggerForm
              key={edited.key}
              desk={desk}
              snapshot={snapshot}
              context={context}
              trigger={edited}
              onClose={() => edit(null)}
            />
          ) : (
            <Button disabled={items.length === 0} onClick={begin}>
              New trigger
            </Button>
          )}
        </section>
        <Refused desk={desk} />
      </div>
    </Dialog>
  );
}

/** What a rule may ask for: all fields, and whether each clock runs. */
function useRuleContext(desk: Desk, snapshot: Prepared): ValueContext {
  const tables = useKnown(desk, 'tables');
  // What it says now is read from the board as it is now.
  useDesk(desk, (s) => s.fields);
  return {
    defs: withRunning(snapshot.defs),
    tables,
    inputs: {},
    now: 'the board now',
    scope: scopeOf(desk),
  };
}

function QuietRule({ desk, snapshot, context }: Seen & { context: ValueContext }) {
  const now = snapshot.documents.quiet.find((q) => q.key === QUIET) ?? neverQuiet();
  const [rule, setRule] = useState<Value | null>(now.rule);
  const dirty = JSON.stringify(rule) !== JSON.stringify(now.rule);
  const venues = snapshot.documents.output.filter((o) => o.venue).map((o) => o.name);
  const clock = context.defs.find((d) => d.key.endsWith('.running'));
  return (
    <section aria-label="Quiet">
      <h3>Quiet</h3>
      <p className={shell['dim']}>
        While it is quiet nothing moves on{' '}
        {venues.length ? venues.join(' and ') : 'boards in the venue (no output is one yet: see Outputs)'}:
        what changes there changes at once.
      </p>
      <p className={shell['fields']}>
        <Switch on={now.on} onChange={(on) => void saveDocument(desk, 'quiet', { ...now, on })}>
          Quiet now
        </Switch>
      </p>
      <Switch
        on={rule !== null}
        onChange={(on) => setRule(on ? { field: clock?.key ?? context.defs[0]?.key ?? '' } : null)}
      >
        Quiet by itself while this is true
      </Switch>
      {rule && <ValueEditor value={rule} context={context} label="Quiet rule" onChange={setRule} />}
      <p className={shell['fields']}>
        <Button
          main={dirty}
          disabled={!dirty}
          onClick={() => void saveDocument(desk, 'quiet', { ...now, rule })}
        >
          Save the rule
        </Button>
      </p>
    </section>
  );
}

function TriggerForm({
  desk,
  snapshot,
  context,
  trigger,
  onClose,
}: Seen & { context: ValueContext; trigger: Trigger; onClose: () => void }) {
  const [draft, setDraft] = useState(trigger);
  const put = (more: Partial<Trigger>) => setDraft({ ...draft, ...more });
  return (
    <form
      className={css['form']}
      aria-label={`Trigger ${trigger.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void saveDocument(desk, 'trigger', { ...draft, name: draft.name.trim() || trigger.name }).then(
          (a) => a.ok && onClose(),
        );
      }}
    >
      <label>
        Name
        <input value={draft.name} maxLength={80} onChange={(e) => put({ name: e.target.value })} />
      </label>
      <div>
        When
        <ValueEditor value={draft.when} context={context} label="When" onChange={(when) => put({ when })} />
      </div>
      <label>
        What it does
        <select
          aria-label="What it does"
          value={draft.edge}
          onChange={(e) => put({ edge: e.target.value as Edge })}
        >
          {Object.entries(EDGES).map(([edge, words]) => (
            <option key={edge} value={edge}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label>
        Take
        <select aria-label="Take" value={draft.item} onChange={(e) => put({ item: e.target.value })}>
          {orderOf(snapshot).map((i) => (
            <option key={i.key} value={i.key}>
              {i.number} {i.name}
            </option>
          ))}
        </select>
      </label>
      <NumberField
        label="After"
        unit="s"
        value={draft.wait}
        min={0}
        max={LONGEST_WAIT}
        onChange={(wait) => put({ wait })}
      />
      <Switch on={draft.once} onChange={(once) => put({ once })}>
        Once: it is switched off when it was taken
      </Switch>
      <Switch on={draft.only !== null} onChange={(on) => put({ only: on ? NOTHING : null })}>
        Only while this is true
      </Switch>
      {draft.only && (
        <ValueEditor
          value={draft.only}
          context={context}
          label="Only while"
          onChange={(only) => put({ only })}
        />
      )}
      <p className={shell['fields']}>
        <Button main type="submit" disabled={isNothing(draft.when) || isNothing(draft.only)}>
          Save
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </p>
    </form>
  );
}
