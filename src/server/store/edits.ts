import type { Transaction } from 'sequelize';
import type { Edit } from '../../core/actions/change.ts';
import { plainPath } from '../../core/media/media.ts';
import { DocumentRow, LaneRow, MediaRow, PinRow, TapeRow } from './models.ts';

/** Writes one edit: the row of what stands now, or none. */
export async function writeEdit(edit: Edit, transaction?: Transaction): Promise<void> {
  const how = transaction ? { transaction } : {};
  const { key } = edit;
  switch (edit.kind) {
    case 'lane': {
      const { is } = edit;
      if (is) {
        const { onAir, before, queue, off } = is;
        const texts = { onAir: onAir && JSON.stringify(onAir), past: before && JSON.stringify(before) };
        await LaneRow.upsert(
          { ...is, ...texts, queue: queue.length ? JSON.stringify(queue) : null, off: off.join(' ') || null },
          how,
        );
      } else if (edit.was) {
        const { output, zone } = edit.was;
        await LaneRow.destroy({ where: { output, zone }, ...how });
      }
      return;
    }
    case 'pin': {
      const { is } = edit;
      if (is) await PinRow.upsert({ field: key, value: JSON.stringify(is.value), at: is.at }, how);
      else await PinRow.destroy({ where: { field: key }, ...how });
      return;
    }
    case 'media': {
      const path = plainPath(key);
      if (edit.is) await MediaRow.upsert({ path, body: JSON.stringify(edit.is) }, how);
      else await MediaRow.destroy({ where: { path }, ...how });
      return;
    }
    case 'tape':
      if (edit.is) await TapeRow.upsert({ key, body: JSON.stringify(edit.is) }, how);
      else await TapeRow.destroy({ where: { key }, ...how });
      return;
    default: {
      const { kind, is, isText, revision = 1 } = edit;
      const body = isText ?? (is && JSON.stringify(is));
      if (!body) return void (await DocumentRow.destroy({ where: { kind, key }, ...how }));
      await DocumentRow.upsert({ kind, key, schemaVersion: is?.schema ?? 0, revision, body }, how);
    }
  }
}
