import { Link as RouterLink, useRouteError } from "react-router";

import { Notice } from "../parts/Notice";

export const Lost = () => {
  const error = useRouteError();
  return (
    <Notice title={error ? "Something went wrong on this page." : "There is nothing at this address."}>
      <RouterLink to="/" reloadDocument={Boolean(error)}>
        Go to the Horizon
      </RouterLink>
    </Notice>
  );
};
