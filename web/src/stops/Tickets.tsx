import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { get } from "../api/asked";

/** Tickets that were written and are not over yet. */
export const Tickets = ({ rig }: { rig: number }) => {
  const tickets = useQuery(get(rig, "/tickets")).data?.tickets.filter((each) => !each.over) ?? [];
  if (tickets.length === 0) return null;
  return (
    <Box as="section" aria-label="Open tickets" mb="8">
      <Box color="soft" fontSize="sm" mb="1">
        Open tickets
      </Box>
      {tickets.map((ticket) => (
        <Box key={ticket.id} py="1">
          <Link to={`/stops/tickets/${ticket.id}`}>
            <Box as="span" textDecoration="underline">
              {ticket.name}, {ticket.when}
            </Box>
          </Link>
          {`: ${ticket.left} left to log`}
        </Box>
      ))}
    </Box>
  );
};
