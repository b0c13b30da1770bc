import { useCatalogue } from "../fits/catalogue";

interface Props {
  /** Their keys; all where it is empty. */
  models: string[];
  onModels: (models: string[]) => void;
}

/** Which models students may choose. */
export function ModelsOnOffer({ models, onModels }: Props) {
  const offers = useCatalogue();
  const keys = offers.map(({ key }) => key);
  const tick = (key: string, on: boolean) => {
    const before = models.length ? models : keys;
    const after = keys.filter((one) => (one === key ? on : before.includes(one)));
    // With none there would be nothing to do; with all of them nothing is settled.
    if (after.length) onModels(after.length === keys.length ? [] : after);
  };
  return (
    <fieldset className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-1">
      <legend>Models on offer: {models.length ? `${models.length} of ${keys.length}` : "all"}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {offers.map(({ key, name }) => (
          <label key={key} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-(--color-pine)"
              checked={!models.length || models.includes(key)}
              onChange={(event) => tick(key, event.target.checked)}
            />
            {name}
          </label>
        ))}
      </div>
      <p className="flex flex-wrap gap-2">
        <button type="button" className="button" onClick={() => onModels(keys.slice(0, 1))}>
          Only the {offers[0]?.name ?? "line"}
        </button>
        <button type="button" className="button" disabled={!models.length} onClick={() => onModels([])}>
          All of them
        </button>
      </p>
    </fieldset>
  );
}
