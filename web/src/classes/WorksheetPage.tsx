import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Copy, Layers, Save } from "lucide-react";
import { type FormEvent, useEffect, useState } from "react";

import { PlainPage } from "../account/PlainPage";
import { api, type Worksheet } from "../api/client";
import { done } from "../api/done";
import { must } from "../api/must";
import { navigate } from "../route";
import { notify } from "../ui/Notices";
import { Select } from "../ui/Select";
import { SaveLink } from "../ui/SaveLink";
import { CourseForm } from "./CourseForm";
import { ClassPlot } from "./ClassPlot";
import { ClassTable } from "./ClassTable";
import { KeptBack } from "./KeptBack";
import { StepsEditor } from "./StepsEditor";

const BEGIN = [
  ["readings", "the readings, without fits and answers"],
  ["columns", "empty columns: readings are to be entered"],
  ["all", "everything as it is in the study"],
] as const;

/** Milliseconds after which the class is looked at again. */
const AGAIN = 10_000;

/** A worksheet for whoever made it: its text and steps, its code, and the class. */
export function WorksheetPage({ id }: { id: string }) {
  const path = { worksheet_id: id };
  const found = useQuery({
    queryKey: ["class", id],
    staleTime: 0,
    refetchInterval: AGAIN,
    queryFn: () => must(api.GET("/api/worksheets/{worksheet_id}/class", { params: { path } })),
  });
  const sheet = found.data?.worksheet;
  useEffect(() => {
    document.title = `${sheet?.title ?? "Worksheet"} · Ridge`;
  }, [sheet?.title]);
  return (
    <PlainPage title={sheet?.title ?? "Worksheet"} wide>
      {found.error && !found.data && <p role="alert">{found.error.message}</p>}
      {sheet && found.data && (
        <>
          <Code sheet={sheet} />
          <section className="grid gap-2" aria-labelledby="the-class">
            <h2 id="the-class" className="font-book text-lead font-semibold">
              The class: {sheet.copies} joined, {sheet.handed_in} handed in
            </h2>
            {found.error && (
              <p role="alert" className="text-plain text-amber">
                The server cannot be reached. This is the class as it was at {new Date(found.dataUpdatedAt).toLocaleTimeString()}.
              </p>
            )}
            <div className="goes-stale grid gap-2" aria-busy={Boolean(found.error)}>
              <ClassTable worksheet={id} copies={found.data.copies} />
              {sheet.copies > 0 && <ClassPlot id={id} changed={found.dataUpdatedAt} />}
            </div>
            {sheet.copies > 0 && <OfTheClass id={id} />}
          </section>
          <Editor key={sheet.id} sheet={sheet} />
        </>
      )}
    </PlainPage>
  );
}

function Code({ sheet }: { sheet: Worksheet }) {
  const address = `${window.location.origin}/join/${sheet.link}`;
  const trial = useMutation({
    mutationFn: () => must(api.POST("/api/worksheets/{worksheet_id}/trial", { params: { path: { worksheet_id: sheet.id } } })),
    onSuccess: ({ study }) => navigate(`/study/${study}`),
  });
  const copy = () => void navigator.clipboard.writeText(address).then(() => notify("The address is copied."));
  return (
    <section aria-label="Code of the class" className="flex flex-wrap items-center gap-x-4 gap-y-2 border border-edge bg-sheet px-4 py-3">
      <p>
        {sheet.closed ? "Closed. Its code is " : "Students type the code "}
        <strong className="font-mono text-lead font-semibold tracking-wider" data-testid="code">
          {sheet.code.slice(0, 4)} {sheet.code.slice(4)}
        </strong>{" "}
        on the shelf, under <em>Join a class</em>, or open the address.
      </p>
      <button className="button" onClick={copy}>
        <Copy size={14} /> Copy the address
      </button>
      <button className="button" onClick={() => trial.mutate()}>
        Try it as a student
      </button>
      {trial.error && (
        <p role="alert" className="text-plain text-amber">
          {trial.error.message}
        </p>
      )}
    </section>
  );
}

function OfTheClass({ id }: { id: string }) {
  const pool = useMutation({
    mutationFn: () => must(api.POST("/api/worksheets/{worksheet_id}/pool", { params: { path: { worksheet_id: id } } })),
    onSuccess: ({ study, said }) => {
      notify(said);
      navigate(`/study/${study.id}`);
    },
  });
  return (
    <>
      <p className="flex flex-wrap gap-2">
        <button className="button" onClick={() => pool.mutate()}>
          <Layers size={14} /> All readings in one new study
        </button>
        <SaveLink className="button" href={`/api/worksheets/${id}/class.csv`}>
          Table as CSV
        </SaveLink>
        <SaveLink className="button" href={`/api/worksheets/${id}/class.xlsx`}>
          As XLSX workbook
        </SaveLink>
      </p>
      {pool.error && (
        <p role="alert" className="text-plain text-amber">
          {pool.error.message}
        </p>
      )}
    </>
  );
}

function Editor({ sheet }: { sheet: Worksheet }) {
  const queries = useQueryClient();
  const path = { worksheet_id: sheet.id };
  const [title, setTitle] = useState(sheet.title);
  const [steps, setSteps] = useState(sheet.steps);
  const [begin, setBegin] = useState(sheet.begin);
  const [withheld, setWithheld] = useState(sheet.withheld);
  const [course, setCourse] = useState(sheet.course);
  const mend = useMutation({
    mutationFn: (closed: boolean) =>
      must(api.PUT("/api/worksheets/{worksheet_id}", { params: { path }, body: { title, begin, withheld, steps, course, closed } })),
    onSuccess: (kept) => {
      setSteps(kept.steps);
      notify(kept.closed ? "The worksheet is closed." : "The worksheet is saved; every copy has it now.");
      return queries.invalidateQueries({ queryKey: ["class", sheet.id] });
    },
  });
  const remove = useMutation({
    mutationFn: () => done(api.DELETE("/api/worksheets/{worksheet_id}", { params: { path } })),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["worksheets"] });
      notify("The worksheet is deleted. The copies stay with the students.");
      navigate("/");
    },
  });
  const save = (event: FormEvent) => {
    event.preventDefault();
    mend.mutate(sheet.closed);
  };
  const problem = mend.error ?? remove.error;
  return (
    <form className="grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="Worksheet" onSubmit={save}>
      <h2 className="font-book text-lead font-semibold">The worksheet</h2>
      <label className="grid gap-1 text-plain">
        Title
        <input className="field w-full" required maxLength={200} value={title} onChange={(event) => setTitle(event.target.value)} />
      </label>
      <label className="flex flex-wrap items-center gap-2 text-plain">
        A copy begins with
        <Select aria-label="What a copy begins with" value={begin} words={BEGIN} onPick={setBegin} />
      </label>
      <KeptBack withheld={withheld} steps={steps.length} onWithheld={setWithheld} />
      <CourseForm course={course} onCourse={setCourse} />
      <StepsEditor steps={steps} onSteps={setSteps} />
      {problem && (
        <p role="alert" className="text-plain text-amber">
          {problem.message}
        </p>
      )}
      <p className="flex flex-wrap gap-2">
        <button className="button-main" aria-disabled={mend.isPending}>
          <Save size={14} /> Save the worksheet
        </button>
        <button type="button" className="button" onClick={() => mend.mutate(!sheet.closed)}>
          {sheet.closed ? "Open it again" : "Close it: nothing more is handed in"}
        </button>
        <Deleting onDelete={() => remove.mutate()} />
      </p>
    </form>
  );
}

/** Asked twice: nobody can join any more. */
function Deleting({ onDelete }: { onDelete: () => void }) {
  const [asked, setAsked] = useState(false);
  return asked ? (
    <>
      <button type="button" className="button" onClick={onDelete}>
        Delete it for good
      </button>
      <button type="button" className="button" onClick={() => setAsked(false)}>
        Keep it
      </button>
    </>
  ) : (
    <button type="button" className="button" onClick={() => setAsked(true)}>
      Delete the worksheet
    </button>
  );
}
