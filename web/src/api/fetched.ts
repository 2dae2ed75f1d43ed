import type { UseQueryResult } from "@tanstack/react-query";

const STARTED_MS = Date.now();

/** Whether an answer is of now, or cannot be had: from one that this device remembers nothing further is asked. */
export const isSettled = ({ dataUpdatedAt, isError }: UseQueryResult): boolean =>
  isError || dataUpdatedAt >= STARTED_MS;
