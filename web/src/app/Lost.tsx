import { Link as RouterLink, useRouteError } from "react-router";

import { Notice } from "../parts/Notice";

export const Lost = () => {
  const error = useRouteError();
  return (
    <Notice
      title={
        !error
          ? "There is nothing at this address."
          : navigator.onLine
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
