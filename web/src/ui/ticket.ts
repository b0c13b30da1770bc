import { api } from "../api/client";

const LOOK = 1000; // ms from one look to the next

/** How far a long request is: how many come before it, and for how many seconds it has been worked on. */
export interface HowFar {
  ahead: number;
  seconds: number | null;
}

/** A name for a request that takes its time, by which it can be looked after: `address` asks under it. */
export function takeTicket(href: string) {
  const ticket = crypto.randomUUID();
  const params = { params: { path: { ticket } } };
  return {
    address: `${href}${href.includes("?") ? "&" : "?"}ticket=${ticket}`,
    /** Tells again and again how far it is, until what is given back is called. */
    watch(tell: (how: HowFar) => void) {
      const clock = window.setInterval(() => {
        void api
          .GET("/api/waiting/{ticket}", params)
          .then(({ data }) => data && tell(data))
          .catch(() => undefined); // the next look may find the server again
      }, LOOK);
      return () => window.clearInterval(clock);
    },
    /** It is no longer wanted: the server need not go on. */
    giveBack: () => void api.DELETE("/api/waiting/{ticket}", { ...params, keepalive: true }).catch(() => undefined),
  };
}
