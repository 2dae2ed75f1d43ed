import { expect, it } from "vitest";

/** Rules of the house that read the sources themselves. */

const SOURCES = import.meta.glob<string>(["../**/*.{ts,tsx}", "!../**/*.generated.ts"], {
  query: "?raw",
  import: "default",
  eager: true,
});
// as seen from this file: "./App.tsx" is of this folder
const FILES = new Map(Object.entries(SOURCES).map(([path, text]) => [path.replace(/^\.\//, "../app/"), text]));
const isTest = (path: string) => /\.test\.|\/testing\//.test(path);
const OWN = [...FILES].filter(([path]) => !isTest(path));

/** The file that an import of another names. */
const named = (from: string, to: string): string | undefined => {
  const parts = from.split("/").slice(1, -1);
  for (const step of to.split("/")) {
    if (step === "..") parts.pop();
    else if (step !== ".") parts.push(step);
  }
  const path = ["..", ...parts].join("/");
  return [path, `${path}.ts`, `${path}.tsx`].find((each) => FILES.has(each));
};

const importsOf = (path: string, text: string): string[] =>
  [...text.matchAll(/(?:import|export)(?! type)[^;]*? from "(\.[^"]+)"/g)].flatMap(
    ([, to = ""]) => named(path, to) ?? [],
  );

it("no import comes back to where it began", () => {
  const graph = new Map(OWN.map(([path, text]) => [path, importsOf(path, text)]));
  const done = new Set<string>();
  const circles: string[] = [];
  const walk = (path: string, way: string[]): void => {
    if (way.includes(path)) return void circles.push([...way.slice(way.indexOf(path)), path].join(" > "));
    if (done.has(path)) return;
    for (const next of graph.get(path) ?? []) walk(next, [...way, path]);
    done.add(path);
  };
  for (const path of graph.keys()) walk(path, []);
  expect(circles).toEqual([]);
});

it("what is exported is used elsewhere", () => {
  const texts = [...FILES];
  const unused = OWN.flatMap(([path, text]) =>
    [...text.matchAll(/^export (?:const|class|interface|type|function|async function) (\w+)/gm)]
      .map(([, name = ""]) => name)
      .filter((name) => !texts.some(([other, its]) => other !== path && new RegExp(`\\b${name}\\b`).test(its)))
      .map((name) => `${path}: ${name}`),
  );
  expect(unused).toEqual([]);
});

it("a form is made in one way, which keeps what is typed from being lost", () => {
  const makes = OWN.filter(([, text]) => /\buseForm\b/.test(text) && /from "react-hook-form"/.test(text));
  expect(makes.map(([path]) => path).sort()).toEqual(["../forms/atOnce.ts", "../forms/form.tsx", "../rig/draft.ts"]);
});
