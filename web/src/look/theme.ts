import { createSystem, defaultBaseConfig, defineConfig } from "@chakra-ui/react";
import {
  animationStyles,
  breakpoints,
  cssVarsPrefix,
  cssVarsRoot,
  globalCss,
  keyframes,
  layerStyles,
  semanticTokens,
  textStyles,
  tokens,
  dialogSlotRecipe,
  headingRecipe,
  inputRecipe,
  nativeSelectSlotRecipe,
  tableSlotRecipe,
  textareaRecipe,
} from "@chakra-ui/react/theme";

/** A colour by day and by night. */
const both = (day: string, night: string) => ({ value: { base: day, _dark: night } });

/** A hue of the catalogue: a line that stands against the page, and a wash for ranges. */
const shade = (day: string, night: string, dayWash: string, nightWash: string) => ({
  line: both(day, night),
  wash: both(dayWash, nightWash),
});

/** Some of a table, by their names. */
const only = <T extends object, K extends keyof T>(table: T | undefined, names: readonly K[]): Pick<T, K> =>
  Object.fromEntries(names.map((name) => [name, table?.[name]])) as Pick<T, K>;

/** The library's own look, of the components and hues alone that are used: the rest is a tenth of what a first visit loads, and
 *  every page is given rules for all of it. */
const used = defineConfig({
  preflight: true,
  cssVarsPrefix,
  cssVarsRoot,
  globalCss,
  theme: {
    breakpoints,
    keyframes,
    tokens: {
      ...tokens,
      colors: only(tokens.colors, [
        "transparent",
        "current",
        "black",
        "white",
        "blackAlpha",
        "gray",
        "red",
        "orange",
        "green",
        "blue",
      ]),
    },
    semanticTokens: { ...semanticTokens, colors: only(semanticTokens.colors, ["bg", "fg", "border", "gray"]) },
    textStyles,
    layerStyles,
    animationStyles,
    recipes: { heading: headingRecipe, input: inputRecipe, textarea: textareaRecipe },
    slotRecipes: { dialog: dialogSlotRecipe, nativeSelect: nativeSelectSlotRecipe, table: tableSlotRecipe },
  },
});

export const system = createSystem(
  defaultBaseConfig,
  used,
  defineConfig({
    globalCss: {
      "html, body": { bg: "page", color: "ink", fontFamily: "body", fontVariantNumeric: "tabular-nums" },
      "input:focus-visible, select:focus-visible, textarea:focus-visible": {
        outline: "2px solid !important",
        outlineColor: "accent !important",
        outlineOffset: "2px !important",
      },
      // every target has a thumb's width on a phone: a link within a line keeps the line's height
      "input, select": { mdDown: { minHeight: "2.75rem !important" } },
      summary: { mdDown: { minHeight: "2.75rem", display: "flex", alignItems: "center", gap: "0.4rem" } },
      "summary::before": { mdDown: { content: '"\\203a"' } },
      "details[open] > summary::before": { mdDown: { content: '"\\2304"' } },
      "main a": { mdDown: { paddingBlock: "0.85rem" } },
      "*:focus-visible": { outline: "2px solid", outlineColor: "accent", outlineOffset: "2px" },
      // what is printed is black on white, small, and without what only a screen needs
      html: { "@media print": { fontSize: "10.5px" } },
      "html, body, #main": { "@media print": { bg: "white !important", color: "black !important", p: "0 !important" } },
      "header, .no-print": { "@media print": { display: "none !important" } },
      "*, *::before, *::after": {
        // once: what repeats without end would never rest
        _motionReduce: {
          animationDuration: "0.01ms !important",
          animationIterationCount: "1 !important",
          transitionDuration: "0.01ms !important",
        },
      },
    },
    theme: {
      tokens: {
        fonts: {
          body: { value: "'Hanken Grotesk Variable', system-ui, sans-serif" },
          heading: { value: "'Newsreader Variable', Georgia, serif" },
        },
      },
      semanticTokens: {
        colors: {
          page: both("#f5f2ea", "#120e0a"),
          raised: both("#fffdf8", "#1d1712"),
          sunken: both("#eae5d8", "#0c0907"),
          ink: both("#1f2622", "#ecdfca"),
          soft: both("#535a52", "#b9a88f"),
          rule: both("#cdc6b4", "#3a3026"),
          edge: both("#80796a", "#8b7a64"),
          accent: both("#8a3a10", "#eda663"),
          onAccent: both("#fffdf8", "#1a1009"),
          warn: both("#962515", "#f79a80"),
          good: both("#2c5f3b", "#9cc79a"),
          lode: both("#1f2622", "#ecdfca"),
          // a code is read by a camera: dark on light, by night too
          code: { ink: both("#000000", "#000000"), paper: both("#ffffff", "#ffffff") },
          first: both("#b23a12", "#ff9a5c"),
          firstWash: both("#e9c9b4", "#3f2415"),
          hue: {
            amber: shade("#8a6200", "#e3b658", "#ecd9a4", "#46371a"),
            sea: shade("#1c6480", "#7fbfd6", "#bcd9e2", "#1d3a45"),
            slate: shade("#5a6068", "#b0b3b5", "#d3d4d3", "#36373a"),
            plum: shade("#6d3f62", "#c99bbd", "#dfc9da", "#402a3b"),
            straw: shade("#73680f", "#cfc25d", "#e2dca4", "#3d3a18"),
            umber: shade("#74502f", "#c7a17c", "#e0cdb9", "#3d2d1f"),
            rust: shade("#a0431f", "#ea946c", "#ecccb9", "#4a2a1b"),
            moss: shade("#4a6628", "#a5c27c", "#d1dcbb", "#2c3a1d"),
            indigo: shade("#4b4f93", "#a9acdf", "#cfd0e8", "#2b2d4d"),
          },
          bg: { DEFAULT: both("#f5f2ea", "#120e0a"), panel: both("#fffdf8", "#1d1712") },
          fg: { DEFAULT: both("#1f2622", "#ecdfca"), muted: both("#535a52", "#b9a88f") },
          border: { DEFAULT: both("#cdc6b4", "#3a3026") },
        },
      },
    },
  }),
);
