import "@fontsource-variable/hanken-grotesk";
import "@fontsource-variable/newsreader";

import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { applyNight, isNight } from "./app/night";
import { App } from "./app/App";

applyNight(isNight());
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  );
}
