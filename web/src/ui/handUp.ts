const down = new Set<number>();
let held: (() => void)[] = [];

addEventListener("pointerdown", ({ pointerId }) => down.add(pointerId), true);
for (const end of ["pointerup", "pointercancel"] as const) {
  addEventListener(
    end,
    ({ pointerId }) => {
      down.delete(pointerId);
      // The click that this release makes comes first: a button that moved away under it would not be pressed.
      if (down.size === 0) setTimeout(letGo);
    },
    true,
  );
}

// A press that ends in another window ends unseen.
addEventListener("blur", () => {
  down.clear();
  letGo();
});

function letGo() {
  if (down.size > 0) return;
  const due = held;
  held = [];
  for (const then of due) then();
}

/** Do what moves things on the page: now, or once no pointer is pressed any more. */
export function whenHandIsUp(then: () => void) {
  if (down.size === 0) then();
  else held.push(then);
}
