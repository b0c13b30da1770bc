import type { CourseSettings, Settled } from "../api/client";
import { LEVELS } from "../study/levels";
import { percent } from "../ui/numbers";
import { Select } from "../ui/Select";
import { WholeNumber } from "../ui/WholeNumber";
import { HandleSpans } from "./HandleSpans";
import { LettersOfCourse } from "./LettersOfCourse";
import { ModelsOnOffer } from "./ModelsOnOffer";

const ANGLES = [
  ["free", "as the student likes"],
  ["radians", "in radians"],
  ["degrees", "in degrees"],
] as const;
const FREE = -1;
const DECIMALS = [[FREE, "as many as it needs"] as const, ...Array.from({ length: 9 }, (_, places) => [places, String(places)] as const)];

interface Props {
  course: CourseSettings;
  onCourse: (course: CourseSettings) => void;
}

/** What the course settles in every copy; there it cannot be changed. */
export function CourseForm({ course, onCourse }: Props) {
  const settled = course.settled ?? {};
  const put = (part: Partial<Settled>) => onCourse({ ...course, settled: { ...settled, ...part } });
  const level = course.level ?? 0.95;
  return (
    <details className="border border-rule bg-sheet px-3 py-2">
      <summary className="cursor-pointer text-plain font-semibold">The course&rsquo;s settings, which hold in every copy</summary>
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-4 text-plain">
        <Few course={course} level={level} onCourse={onCourse} put={put} />
        <ModelsOnOffer models={settled.models ?? []} onModels={(models) => put({ models })} />
        <LettersOfCourse letters={course.letters ?? {}} onLetters={(letters) => onCourse({ ...course, letters })} />
        <HandleSpans spans={settled.spans ?? []} onSpans={(spans) => put({ spans })} />
      </div>
    </details>
  );
}

function Few({ course, level, onCourse, put }: Props & { level: number; put: (part: Partial<Settled>) => void }) {
  const { degrees, decimals, least_readings: least = 0 } = course.settled ?? {};
  const angles = degrees == null ? "free" : degrees ? "degrees" : "radians";
  const levels = LEVELS.includes(level) ? LEVELS : [...LEVELS, level].sort();
  return (
    <div className="grid gap-2 [&>label]:flex [&>label]:flex-wrap [&>label]:items-center [&>label]:gap-2">
      <label>
        Intervals at
        <Select
          aria-label="Level of intervals"
          value={level}
          words={levels.map((one) => [one, percent(one)] as const)}
          onPick={(next) => onCourse({ ...course, level: next })}
        />
      </label>
      <label>
        Decimals of an equation
        <Select
          aria-label="Decimals of an equation"
          value={decimals ?? FREE}
          words={DECIMALS}
          onPick={(places) => put({ decimals: places === FREE ? null : places })}
        />
      </label>
      <label>
        Angles
        <Select
          aria-label="Angles"
          value={angles}
          words={ANGLES}
          onPick={(wanted) => put({ degrees: wanted === "free" ? null : wanted === "degrees" })}
        />
      </label>
      <label>
        <input
          type="checkbox"
          className="accent-(--color-pine)"
          checked={course.rising ?? false}
          onChange={(event) => onCourse({ ...course, rising: event.target.checked })}
        />
        Terms from the lowest power up
      </label>
      <WholeNumber
        label="To hand in, at least"
        after="readings"
        name="Least number of readings"
        value={least}
        low={0}
        high={1000}
        onPut={(count) => put({ least_readings: count })}
      />
    </div>
  );
}
