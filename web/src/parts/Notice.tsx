import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

import { Refusal, sentenceOf, Working } from "../api/client";
import { Plain } from "./Plain";

/** A page, or a part of one, with nothing to show but a sentence. */
export const Notice = ({ title, children }: { title: string; children?: ReactNode }) => (
  <Box maxW="36rem" mx="auto" my="12" px="4">
    <Box as="h1" fontFamily="heading" fontSize="2xl" mb="3">
      {title}
    </Box>
    {children}
  </Box>
);

const BARS = ["62%", "88%", "74%", "91%", "56%"];

/** What is on its way: the lines that it will stand on, faint, so that nothing jumps when it comes. */
export const Waiting = ({ what, why }: { what: string; why?: Error | null }) => (
  <Box role="status" maxW="60rem" mx="auto" my="6" px="1" data-part="waiting">
    <Box color="soft" mb="4">
      {why instanceof Working ? why.message : `Loading ${what} ...`}
    </Box>
    <Box
      aria-hidden
      css={{ animation: "waiting 1.6s ease-in-out infinite", "@keyframes waiting": { "50%": { opacity: 0.45 } } }}
    >
      {BARS.map((width) => (
        <Box key={width} py="3" borderTopWidth="1px" borderColor="rule">
          <Box bg="sunken" height="1.1rem" width={width} borderRadius="sm" />
        </Box>
      ))}
    </Box>
  </Box>
);

/** What the server would not do, or that it could not be reached, with a way on. */
export const Refused = ({ error, again }: { error: Error; again?: () => void }) => {
  const lost = error instanceof Refusal && error.status === 0;
  const missing = error instanceof Refusal && error.status === 404;
  return (
    <Notice title={lost ? "No connection." : missing ? "Not here." : "That was refused."}>
      <Box role="alert" mb="4">
        {error.message} {lost && "What you logged is kept on this device."}
      </Box>
      {again && <Plain onClick={again}>Try again</Plain>}
    </Notice>
  );
};

/** One line on what went wrong. */
export const Problem = ({ error, id }: { error: unknown; id?: string }) =>
  error ? (
    <Box id={id} role="alert" color="warn" fontSize="sm" mt="1">
      {sentenceOf(error)}
    </Box>
  ) : null;
