import { Link as RouterLink, useRouteError } from "react-router";

import { line } from "../api/line";
import { Notice } from "../parts/Notice";

export const Lost = () => {
  const error = useRouteError();
  return (
    <Notice
      title={
        !error
          ? "There is nothing at this address."
          : line.isUp()
            ? "Something went wrong on this page."
            : "This page needs a signal: it was not on this device yet."
      }
    >
      <RouterLink to="/" reloadDocument={Boolean(error)}>
        Go to the Horizon
      </RouterLink>
    </Notice>
  );
};
