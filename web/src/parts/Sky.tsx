import { chakra } from "@chakra-ui/react";

import type { Schemas } from "../api/client";

type SkyWord = NonNullable<Schemas["OutlookIn"]["sky"]>;

const DRAWN: Record<SkyWord, React.ReactNode> = {
  clear: <circle cx="9" cy="9" r="5" fill="none" />,
  mixed: (
    <>
      <path d="M9 4 a5 5 0 0 0 0 10 z" fill="currentColor" />
      <circle cx="9" cy="9" r="5" fill="none" />
    </>
  ),
  overcast: <path d="M3 6h12M3 9h12M3 12h12" fill="none" />,
  wet: <path d="M3 5h12M5 9l-1 5M9 9l-1 5M13 9l-1 5" fill="none" />,
};

/** Whether a word is one that is drawn. */
export const isSky = (word: string | null): word is SkyWord => word !== null && word in DRAWN;

/** The same drawing inside another one, from its top left corner. */
export const SkyShape = ({ sky, x, y, size }: { sky: SkyWord; x: number; y: number; size: number }) => (
  <chakra.g
    transform={`translate(${x},${y}) scale(${size / 18})`}
    stroke="currentColor"
    strokeWidth="1.6"
    strokeLinecap="round"
    color="soft"
    aria-hidden
  >
    {DRAWN[sky]}
  </chakra.g>
);

/** A sky word as a small drawing; the word itself is always in the label beside or around it. */
export const SkyMark = ({ sky, size = 18 }: { sky: string; size?: number }) => (
  <chakra.svg
    viewBox="0 0 18 18"
    width={`${size}px`}
    height={`${size}px`}
    stroke="currentColor"
    strokeWidth="1.6"
    strokeLinecap="round"
    aria-hidden
    display="inline-block"
  >
    {isSky(sky) && DRAWN[sky]}
  </chakra.svg>
);
