import { readdirSync } from "node:fs";

import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// Imports run one way: each layer may use those before it. A view uses no other view, but for what stands here.
const BELOW = [["look"], ["api"], ["notation"], ["parts", "charts"], ["outbox"], ["forms"]];
const NO_VIEW = new Set([...BELOW.flat(), "app", "testing"]);
const VIEWS = readdirSync(new URL("src", import.meta.url), { withFileTypes: true })
  .filter((entry) => entry.isDirectory() && !NO_VIEW.has(entry.name))
  .map((entry) => entry.name);
const LAYERS = [...BELOW, VIEWS, ["app"]];
const SHARED = { setup: ["logbook"] };

const above = (level) => LAYERS.slice(level + 1).flat();

const layered = LAYERS.flatMap((folders, level) =>
  folders.map((folder) => {
    const beside = folders === VIEWS ? VIEWS.filter((view) => view !== folder && !SHARED[folder]?.includes(view)) : [];
    const barred = [...above(level), ...beside];
    // a chart takes scales and draws; it knows neither the wire nor a view's parts
    if (folder === "charts") barred.push("api", "parts");
    return {
      files: [`src/${folder}/**/*.{ts,tsx}`],
      ignores: ["src/**/*.test.{ts,tsx}"],
      rules: {
        "no-restricted-imports": [
          "error",
          {
            patterns: [
              {
                group: [...barred, "testing"].map((name) => `../${name}/*`),
                message: "Imports run one way; see docs/architecture.md.",
              },
            ],
          },
        ],
      },
    };
  }),
);

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.generated.ts", "src/**/*.generated.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    plugins: { "react-hooks": hooks },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      // a raw colour outside the theme would not follow day and night
      "no-restricted-syntax": [
        "error",
        { selector: "Literal[value=/^#[0-9a-fA-F]{3,8}$/]", message: "Use a token of the theme." },
        { selector: "MemberExpression[property.name='getTimezoneOffset']", message: "Offsets are the server's." },
      ],
    },
  },
  { files: ["src/look/theme.ts"], rules: { "no-restricted-syntax": "off" } },
  ...layered,
);
