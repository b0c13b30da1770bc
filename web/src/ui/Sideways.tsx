import { type ReactNode, useEffect, useRef, useState } from "react";

/** A box that scrolls sideways where its content is too wide for it, and then takes the keyboard too. */
export function Sideways({ label, className = "", children }: { label: string; className?: string; children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(false);
  useEffect(() => {
    const held = box.current;
    if (!held) return;
    const measure = () => setWide(held.scrollWidth > held.clientWidth + 1);
    const size = new ResizeObserver(measure);
    const content = new MutationObserver(measure);
    size.observe(held);
    content.observe(held, { childList: true, subtree: true, characterData: true });
    // Faces that come late make the same letters wider.
    document.fonts.addEventListener("loadingdone", measure);
    return () => {
      document.fonts.removeEventListener("loadingdone", measure);
      size.disconnect();
      content.disconnect();
    };
  }, []);
  const reach = wide ? { tabIndex: 0, role: "group", "aria-label": label } : {};
  return (
    <div ref={box} className={`min-w-0 overflow-x-auto ${className}`} {...reach}>
      {children}
    </div>
  );
}
