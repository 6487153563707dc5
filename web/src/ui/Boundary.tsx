import { Component, type ReactNode } from "react";
import { Button, Empty } from "./kit";

/** Keeps a fault in one place of the application from taking the rest with it: the other places stay within reach. */
export class Boundary extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    return this.state.failed ? (
      <main className="flex flex-1">
        <Empty title="This page has failed">
          <p className="mb-4">
            Nothing that was kept is lost. Open the page again; if it fails again, tell your administrator what you did
            just before.
          </p>
          <Button look="main" onClick={() => this.setState({ failed: false })}>
            Open the page again
          </Button>
        </Empty>
      </main>
    ) : (
      this.props.children
    );
  }
}
