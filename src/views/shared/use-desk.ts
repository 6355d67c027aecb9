import { useStore } from 'zustand';
import { useStoreWithEqualityFn } from 'zustand/traditional';
import type { BoardField, DeskSnapshot } from '../../core/wire/wire.ts';
import type { Desk } from './desk.ts';
import { samePrepared, type DeskState, type LivePart, type Prepared } from './desk-state.ts';

/** A part of what the page knows: who asks is drawn again when that part is another, and only then. */
export const useDesk = <T>(desk: Desk, part: (state: DeskState) => T): T => useStore(desk.store, part);

/** A part of the server's own state that changes while a game runs; there is one once a view stands. */
export const useKnown = <K extends LivePart>(desk: Desk, name: K): DeskSnapshot[K] =>
  useDesk(desk, (s) => s.desk![name]);

/** One field of the board. */
export const useField = (desk: Desk, key: string | undefined): BoardField | undefined =>
  useDesk(desk, (s) => (key === undefined ? undefined : s.fields.get(key)));

/** What people prepared; null before the server's first word. */
export const usePrepared = (desk: Desk): Prepared | null =>
  useStoreWithEqualityFn(desk.store, (s) => s.desk, samePrepared);
