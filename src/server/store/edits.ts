import type { Edit } from '../../core/actions/change.ts';
import { plainPath } from '../../core/media/media.ts';
import { DocumentRow, LaneRow, MediaRow, PinRow, TapeRow } from './models.ts';
import { upsertStatement, deleteStatement, type Statement } from './statements.ts';

/** What writes an edit: the row of what stands now, or none. */
export function editStatements(edit: Edit): Statement[] {
  const { key } = edit;
  switch (edit.kind) {
    case 'lane': {
      if (!edit.is) return edit.was ? [deleteStatement(LaneRow, laneOf(edit.was))] : [];
      const { next, onAir, before, queue, off } = edit.is;
      return [
        upsertStatement(LaneRow, {
          ...laneOf(edit.is),
          next,
          onAir: onAir && JSON.stringify(onAir),
          past: before && JSON.stringify(before),
          queue: queue.length ? JSON.stringify(queue) : null,
          off: off.join(' ') || null,
        }),
      ];
    }
    case 'pin': {
      const { is } = edit;
      return [
        is
          ? upsertStatement(PinRow, { field: key, value: JSON.stringify(is.value), at: is.at })
          : deleteStatement(PinRow, { field: key }),
      ];
    }
    case 'media': {
      const path = plainPath(key);
      return [
        edit.is
          ? upsertStatement(MediaRow, { path, body: JSON.stringify(edit.is) })
          : deleteStatement(MediaRow, { path }),
      ];
    }
    case 'tape':
      return [
        edit.is
          ? upsertStatement(TapeRow, { key, body: JSON.stringify(edit.is) })
          : deleteStatement(TapeRow, { key }),
      ];
    default: {
      const { kind, is, isText, revision = 1 } = edit;
      const body = isText ?? (is && JSON.stringify(is));
      if (!body) return [deleteStatement(DocumentRow, { kind, key })];
      return [upsertStatement(DocumentRow, { kind, key, schemaVersion: is?.schema ?? 0, revision, body })];
    }
  }
}

const laneOf = ({ output, zone }: { output: string; zone: string }) => ({ output, zone });
