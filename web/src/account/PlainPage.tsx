import type { ReactNode } from "react";

import { navigate } from "../route";
import { Mark } from "../ui/Mark";

/** A page of text and forms, with the way back to the shelf. */
export function PlainPage({ title, wide = false, children }: { title: string; wide?: boolean; children: ReactNode }) {
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex h-[46px] shrink-0 items-center justify-between bg-bar px-4 text-on-bar">
        <Mark />
        <button className="bar-button" onClick={() => navigate("/")}>
          To the shelf
        </button>
      </header>
      <main
        className={`mx-auto grid w-full ${wide ? "max-w-[1180px]" : "max-w-[820px]"} grow grid-cols-[minmax(0,1fr)] content-start gap-4 px-5 pt-7 pb-16`}
      >
        <h1 className="font-book text-title font-semibold">{title}</h1>
        {children}
      </main>
    </div>
  );
}
