import { Button } from 'antd';
import { Component, Suspense, type ReactNode } from 'react';

/**
 * What is fetched a moment after the page, with what is shown while it waits. Where it cannot be, or cannot be
 * shown, that is said in its place, or nothing is where it is quiet; the rest of the page stays, and whatever comes
 * into the place next is tried anew.
 */
export class Later extends Component<{ children: ReactNode; quiet?: boolean; wait?: ReactNode }, { lost: boolean }> {
  state = { lost: false };

  static getDerivedStateFromError() {
    return { lost: true };
  }

  componentDidUpdate(was: { children: ReactNode }) {
    if (this.state.lost && was.children !== this.props.children) this.setState({ lost: false });
  }

  render() {
    if (!this.state.lost) return <Suspense fallback={this.props.wait}>{this.props.children}</Suspense>;
    if (this.props.quiet) return null;
    return (
      <div className="panel" role="alert">
        <p className="problem">This could not be fetched, or not be shown. What was saved is kept.</p>
        <Button onClick={() => location.reload()}>Load the page again</Button>
      </div>
    );
  }
}
