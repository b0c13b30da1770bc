import "./index.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { App } from "./app";
import { facesAreHere } from "./ui/faces";

// Radix puts a style element into the page while a dialog is open; the policy asks for this nonce.
const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content;
if (nonce) setNonce(nonce);

// A server on the same computer answers without any network: what the browser holds of its connection keeps nothing back.
const networkMode = "always";
const queries = new QueryClient({
  defaultOptions: { queries: { networkMode, retry: 1, staleTime: Infinity, refetchOnWindowFocus: false }, mutations: { networkMode } },
});

void facesAreHere().then(() =>
  createRoot(document.getElementById("root")!).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Tooltip.Provider delayDuration={250}>
          <App />
        </Tooltip.Provider>
      </QueryClientProvider>
    </StrictMode>,
  ),
);
