import { useState } from "react";

import { useTell } from "../api/asked";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** Agrees on a lever, once: the answer that offers it may stand for a moment after that. ``of``: that answer. */
export const Agree = ({
  rig,
  lever,
  until,
  label,
  of,
}: {
  rig: number;
  lever: string;
  until: string;
  label: string;
  of: unknown;
}) => {
  const agree = useTell(rig, "post", "/agreed");
  const [agreedIn, setAgreedIn] = useState<unknown>(null);
  const isDone = agreedIn === of;
  return (
    <>
      <Plain
        size="sm"
        disabled={agree.isPending || isDone}
        aria-label={label}
        onClick={() => agree.mutate({ lever, until }, { onSuccess: () => setAgreedIn(of) })}
      >
        {isDone ? "Agreed" : "Agree"}
      </Plain>
      <Problem error={agree.error} />
    </>
  );
};
