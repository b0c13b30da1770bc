import { DropdownMenu } from "radix-ui";
import type { ComponentProps } from "react";

import { useMain } from "./useMain";

/** What opens from a button: within the page's main part, where a screen reader looks for it, and never longer than the window. */
export function Menu(props: ComponentProps<typeof DropdownMenu.Content>) {
  return (
    <DropdownMenu.Portal container={useMain()}>
      <DropdownMenu.Content align="end" collisionPadding={8} className="floating p-1" {...props} />
    </DropdownMenu.Portal>
  );
}
