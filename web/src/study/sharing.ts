/* eslint-disable @typescript-eslint/consistent-type-assertions -- parts of the older value take the place of equal parts of the newer one */
/**
 * The newer value with every part that did not change taken from the older one: what is drawn from such a part need not
 * be drawn again.
 */
export function share<Value>(older: unknown, newer: Value): Value {
  if (Object.is(older, newer)) return newer;
  if (typeof older !== "object" || typeof newer !== "object" || older === null || newer === null) return newer;
  if (Array.isArray(newer)) return (Array.isArray(older) ? shareList(older, newer) : newer) as Value;
  if (Array.isArray(older)) return newer;
  const before = older as Record<string, unknown>;
  const names = Object.keys(newer);
  let same = names.length === Object.keys(before).length;
  const shared: Record<string, unknown> = {};
  for (const name of names) {
    shared[name] = share(before[name], (newer as Record<string, unknown>)[name]);
    if (shared[name] !== before[name]) same = false;
  }
  return (same ? older : shared) as Value;
}

function shareList(older: unknown[], newer: unknown[]): unknown[] {
  let same = older.length === newer.length;
  let shared = newer;
  for (let i = 0; i < newer.length; i++) {
    const item = newer[i];
    if (typeof item !== "object" || item === null) {
      if (item !== older[i]) same = false;
      if (!same && shared === newer) return newer; // a list of numbers: one difference is enough
      continue;
    }
    if (shared === newer) shared = newer.slice();
    shared[i] = share(older[i], item);
    if (shared[i] !== older[i]) same = false;
  }
  return same ? older : shared;
}
