import mariadb from 'mariadb';

/** An action as the floors write it down. */
export interface FloorAction {
  id: string;
  field: string;
  text: string;
}

const INSERT =
  'INSERT INTO floor_actions (id, kind, at, desk, who, view, text, body, past, undone, continuedBy) VALUES (?,?,?,?,?,?,?,?,?,?,?)';
const UPSERT =
  'INSERT INTO floor_pins (field, value, at) VALUES (?,?,?) ON DUPLICATE KEY UPDATE value = VALUES(value), at = VALUES(at)';

/** Commits as Foothill does, by the bare driver alone, to tables of its own; `end` lets the connection go. */
export async function floorCommits(db: { port: number; password: string; database: string }) {
  const connection = await mariadb.createConnection({ host: '127.0.0.1', user: 'foothill', ...db });
  await connection.query('CREATE TABLE IF NOT EXISTS floor_actions LIKE actions');
  await connection.query('CREATE TABLE IF NOT EXISTS floor_pins LIKE pins');
  return {
    end: () => connection.end(),
    commit: async ({ id, field, text }: FloorAction): Promise<void> => {
      const at = Date.now();
      const body = JSON.stringify({ field, text });
      const past = JSON.stringify({ undo: { edits: [] }, back: null });
      await Promise.all([
        connection.beginTransaction(),
        connection.query(INSERT, [id, 'pin', at, '', '', '', 'Pinned', body, past, false, '']),
        connection.query(UPSERT, [field, text, at]),
        connection.commit(),
      ]);
    },
  };
}
