import { Component, type ReactNode } from "react";

import { Notice } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** A view that cannot be shown, as one that was never loaded here while there is no signal, does not take the shell. */
export class Failing extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <Notice title={navigator.onLine ? "Something went wrong on this page." : "This page needs a signal."}>
        <Plain onClick={() => window.location.reload()}>Load it again</Plain>
      </Notice>
    );
  }
}
