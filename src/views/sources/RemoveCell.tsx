import X from 'lucide-react/icons/x';
import shell from '../shared/View.module.css';

/** The last cell of a row of readings: takes the row out. */
export function RemoveCell({ name, onRemove }: { name: string; onRemove: () => void }) {
  return (
    <td>
      <button type="button" className={shell['out']} onClick={onRemove} aria-label={`Remove ${name}`}>
        <X size={14} />
      </button>
    </td>
  );
}
