import { startTransition, type ReactNode } from 'react';
import { Tab, TabList, TabPanel, Tabs as Base } from 'react-aria-components';
import css from './Tabs.module.css';

/** Panels of which one shows, chosen by tabs above it: by press, or by arrow keys. */
export function Tabs({
  label,
  tabs,
  chosen,
  onChoose,
  children,
}: {
  label: string;
  tabs: readonly { key: string; name: string }[];
  chosen: string;
  onChoose: (key: string) => void;
  /** The panel of the chosen tab. */
  children: ReactNode;
}) {
  return (
    <Base
      className={css['tabs']!}
      selectedKey={chosen}
      // A panel may be much: it is made ready a piece at a time, and no frame waits for all of it.
      onSelectionChange={(key) => startTransition(() => onChoose(String(key)))}
    >
      <TabList aria-label={label} className={css['list']!}>
        {tabs.map((t) => (
          <Tab key={t.key} id={t.key} className={css['tab']!}>
            {t.name}
          </Tab>
        ))}
      </TabList>
      {tabs.map((t) => (
        <TabPanel key={t.key} id={t.key} className={css['panel']!}>
          {t.key === chosen && children}
        </TabPanel>
      ))}
    </Base>
  );
}
