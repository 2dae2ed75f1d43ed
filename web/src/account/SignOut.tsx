import { Box, Dialog } from "@chakra-ui/react";
import { useNavigate } from "react-router";

import { useSignOut } from "../api/mutations";
import { forgetAccount } from "../outbox/remembered";
import { useWaiting } from "../outbox/writing";
import { Problem } from "../parts/Notice";
import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { counted } from "../parts/words";

/** Signing out: what waits stays for its account; whether the last views stay on this device is asked. */
export const SignOut = ({ account, close }: { account: string; close: () => void }) => {
  const leave = useSignOut();
  const navigate = useNavigate();
  const waiting = useWaiting().filter((each) => each.account === account).length;
  const out = async (answersToo: boolean) => {
    // first out, then forget: nothing that is still being fetched is kept again
    await leave.mutateAsync();
    await forgetAccount(account, answersToo);
    await navigate("/");
  };
  return (
    <Over
      open
      close={close}
      title="Sign out"
      size="sm"
      foot={
        <>
          <Plain onClick={close}>Stay</Plain>
          <Plain disabled={leave.isPending} onClick={() => void out(false).catch(() => undefined)}>
            Sign out, keep the last views here
          </Plain>
          <Plain tone="strong" disabled={leave.isPending} onClick={() => void out(true).catch(() => undefined)}>
            Sign out and clear this device
          </Plain>
        </>
      }
    >
      <Dialog.Body>
        <Box>
          The last views of your rigs are on this device, so that it opens without a signal. On a device that others
          use, clear them.
        </Box>
        {waiting > 0 && (
          <Box mt="2" fontWeight="600">
            Not on the server yet: {counted(waiting, "entry", "entries")}, kept here and sent when you sign in again.
          </Box>
        )}
        <Problem error={leave.error} />
      </Dialog.Body>
    </Over>
  );
};
