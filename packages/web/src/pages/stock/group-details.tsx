import { type KeptGroup, type RawValues, type StockItem, stepKind } from "@hillcrest/core";

/** What a kept group is made of, step by step; it is taken from a part, and put into others on the Bench. */
export function GroupDetails({ group, onChange }: { group: KeptGroup; onChange: (item: StockItem) => void }) {
  return (
    <section aria-label="Its steps" className="max-w-[34em] space-y-2" data-group-details>
      <ol className="space-y-1">
        {group.steps.map((step, i) => (
          <li key={String(step.id)} className="flex gap-3">
            <span className="num w-5 text-right text-quiet">{i + 1}</span>
            <span className="grow">{saidStep(step)}</span>
            {group.steps.length > 1 && (
              <button
                type="button"
                className="text-quiet hover:text-ink"
                aria-label={`Leave step ${i + 1} out of the group`}
                onClick={() => onChange({ ...group, steps: group.steps.toSpliced(i, 1) })}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ol>
      {group.variables.length > 0 && (
        <p className="text-quiet">
          Brings along: {group.variables.map((v) => `${String(v.name)} = ${String(v.value)}`).join(", ")}
        </p>
      )}
      <p className="leading-snug text-quiet">
        On the Bench it stands under “Add a step”. What its steps stand on is picked first, or asked for.
      </p>
    </section>
  );
}

/** A step's sentence with its values as they are kept; what is picked stands as the field's name. */
function saidStep(step: RawValues): string {
  const kind = stepKind(String(step.kind));
  if (!kind) return `${String(step.kind)}: not known to this Hillcrest`;
  const fields = [...kind.fields, ...(kind.more?.(step) ?? [])];
  return kind
    .sentence(step)
    .map((part) => {
      if (typeof part === "string") return part;
      const field = fields.find((f) => f.key === part.field);
      const value = step[part.field];
      if (field?.kind === "picks") return `(${field.label.toLowerCase()})`;
      if (field?.kind === "choice") {
        const word = value ?? field.default;
        return field.options.find((o) => o.value === word)?.label ?? String(word);
      }
      if (typeof value === "object" && value !== null && "name" in value) return String(value.name);
      if (field?.kind === "item")
        return field.own.find(({ id }) => id === (value ?? field.default))?.name ?? "";
      return String(value ?? (field && "default" in field ? field.default : ""));
    })
    .join("");
}
