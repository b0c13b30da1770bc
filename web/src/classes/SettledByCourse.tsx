import { useCatalogue } from "../fits/catalogue";
import { useStudy } from "../study/context";

/** Models that are told one by one. */
const MOST_NAMED = 6;

/** What the course has settled in this copy, so that nobody looks for it in vain. */
export function SettledByCourse() {
  const { course } = useStudy();
  const offers = useCatalogue();
  if (!course) return null;
  const { models = [], decimals, degrees, spans = [] } = course;
  const names = offers.filter(({ key }) => models.includes(key)).map(({ name }) => name);
  const said = [
    "letters, order of terms and the level of intervals",
    names.length > 0 && (names.length > MOST_NAMED ? `${names.length} models on offer` : `the models on offer (${names.join(", ")})`),
    decimals != null && (decimals === 1 ? "one decimal" : `${decimals} decimals`),
    degrees != null && `angles in ${degrees ? "degrees" : "radians"}`,
    spans.length > 0 && "how far handles go",
  ].filter(Boolean);
  return <p className="text-note text-mute">Settled by your course: {said.join("; ")}.</p>;
}
