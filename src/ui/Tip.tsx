import { Tooltip, TooltipTriggerStateContext } from 'react-aria-components';
import { useTooltipTriggerState } from 'react-stately/useTooltipTriggerState';
import css from './Tip.module.css';

/** Words beside what they are about; lines of their own where there are several. */
export function Tip({ at, words }: { at: HTMLElement; words: string }) {
  const state = useTooltipTriggerState({ isOpen: true });
  return (
    <TooltipTriggerStateContext value={state}>
      <Tooltip triggerRef={{ current: at }} className={css['tip']!} placement="bottom" offset={6}>
        {words}
      </Tooltip>
    </TooltipTriggerStateContext>
  );
}
