import { Box } from "@chakra-ui/react";
import { useSyncExternalStore } from "react";

import { outbox } from "../api/outbox";

const online = {
  subscribe: (notify: () => void) => {
    window.addEventListener("online", notify);
    window.addEventListener("offline", notify);
    return () => {
      window.removeEventListener("online", notify);
      window.removeEventListener("offline", notify);
    };
  },
  read: () => navigator.onLine,
};

/** Says when there is no signal and how much waits on this device. */
export const OfflineBar = () => {
  const connected = useSyncExternalStore(online.subscribe, online.read);
  const waiting = useSyncExternalStore(outbox.subscribe, outbox.size);
  const refused = useSyncExternalStore(outbox.subscribe, outbox.refused);
  if (connected && waiting === 0 && !refused) return <Box role="status" />;
  const kept = waiting === 1 ? "1 entry waits" : `${waiting} entries wait`;
  return (
    <Box role="status" bg="sunken" px={{ base: "3", md: "6" }} py="2" borderBottomWidth="1px" borderColor="rule">
      {!connected && "No signal: what is shown may be old. "}
      {waiting > 0 && `${kept} on this device and will be sent when there is a signal.`}
      {refused && ` Not taken: ${refused}`}
    </Box>
  );
};
