import { api, messageOf } from "../api/client";
import { useChange, useStudy } from "../study/context";
import { type Incoming, setView } from "../study/view";
import { notify } from "../ui/Notices";
import { TableDialog } from "./TableDialog";

/** A table that was pasted into or dropped on a study. */
export function IncomingTable({ incoming }: { incoming: Incoming }) {
  const study = useStudy();
  const change = useChange();
  const close = () => setView({ incoming: null });
  return (
    <TableDialog
      incoming={incoming}
      filled={study.columns.some((column) => column.cells.some(Boolean))}
      many
      onClose={close}
      onTake={(table, apart) => {
        if (!apart) {
          change(table);
          setView({ incoming: null, domain: null });
          return;
        }
        void api
          .POST("/api/studies", { body: { title: study.title, table: { ...table, where: "replace" }, apart: true } })
          .then(({ data, error }) => {
            if (!data) return notify(messageOf(error));
            close();
            notify("The studies are on the shelf; this one is as it was.");
          })
          .catch(() => notify("The server cannot be reached. Nothing was taken in; try again."));
      }}
    />
  );
}
