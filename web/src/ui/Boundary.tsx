import { Component, type ReactNode } from "react";
import { Button, Empty } from "./kit";

/**
 * Keeps a fault in one place of the application from taking the rest with it: the other places stay within reach.
 * `onFailed` lets go of what the place had loaded, which may be what it failed over.
 */
export class Boundary extends Component<{ children: ReactNode; onFailed: () => void }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override componentDidCatch() {
    this.props.onFailed();
  }

  override render() {
    return this.state.failed ? (
      <main className="flex flex-1">
        <Empty title="This page has failed">
          <p className="mb-4">
            Nothing that was kept is lost. Open the page again; if it fails again, tell your administrator what you did
            just before.
          </p>
          <Button
            look="main"
            onClick={() => {
              this.props.onFailed();
              this.setState({ failed: false });
            }}
          >
            Open the page again
          </Button>
        </Empty>
      </main>
    ) : (
      this.props.children
    );
  }
}
