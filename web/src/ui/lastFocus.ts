/** What had the focus last outside dialogs, menus and other things that float: there it returns when they close. */
let last: HTMLElement | null = null;

document.addEventListener("focusin", ({ target }) => {
  if (target instanceof HTMLElement && !target.closest("[role=dialog], [role=menu], [data-radix-popper-content-wrapper]")) last = target;
});

let returning = false;

/** Whether the focus is being put back at this very moment: nobody asked for an explanation then. */
export const isReturning = () => returning;

/** Put the focus back there, if it is still on the page; or else to `opener`: in a window that is not in front nothing is told of focus. */
export function returnFocus(opener: HTMLElement | null) {
  const goal = [last, opener].find((one) => one?.isConnected);
  returning = true;
  goal?.focus();
  returning = false;
}
