/** A reading's name, edited in place: left empty or taken by another it stays as it was. */
export function NameInput({
  name,
  taken,
  onRename,
}: {
  name: string;
  taken: readonly string[];
  onRename: (to: string) => void;
}) {
  return (
    <input
      key={name}
      defaultValue={name}
      aria-label={`Name of ${name}`}
      maxLength={80}
      onBlur={(e) => {
        const to = e.target.value.trim();
        if (to === name) return;
        if (to && !taken.includes(to)) onRename(to);
        else e.target.value = name;
      }}
    />
  );
}
