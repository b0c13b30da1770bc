import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Where Django answers while the interface is worked on; see ./run dev. */
const DJANGO = `http://127.0.0.1:${process.env.RIDGE_PORT ?? 8000}`;
const PAGE = `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Ridge</title></head>
<body><div id="root"></div><script type="module" src="/src/main.tsx"></script></body>
</html>`;

/** The page with reloading scripts, and with the cookie that Django's own page brings. */
function page(): Plugin {
  return {
    name: "ridge-page",
    configureServer(server) {
      server.middlewares.use(async (request, response, next) => {
        if (!request.headers.accept?.includes("text/html")) return next();
        try {
          const from = await fetch(DJANGO, { headers: { cookie: request.headers.cookie ?? "", host: request.headers.host ?? "" } });
          response.setHeader("Set-Cookie", from.headers.getSetCookie());
        } catch {
          // Django is still starting: without the cookie only reading works, until the page is loaded again.
        }
        response.setHeader("Content-Type", "text/html");
        response.end(await server.transformIndexHtml(request.url ?? "/", PAGE));
      });
    },
  };
}

export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  plugins: [react(), tailwindcss(), page()],
  server: { host: "127.0.0.1", port: 5173, strictPort: true, proxy: { "/api": { target: DJANGO, changeOrigin: false } } },
  build: {
    manifest: "manifest.json",
    // The Content-Security-Policy allows no data: fonts, so nothing is inlined.
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 700,
    rollupOptions: { input: "src/main.tsx" },
  },
}));
