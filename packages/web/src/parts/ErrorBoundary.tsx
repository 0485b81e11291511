import { Component, type ReactNode } from 'react';
import Button from '@mui/material/Button';
import { EmptyState } from './EmptyState';

const UNTOUCHED = 'Your catalogue and your files are untouched. What the page says:';

/** What is shown instead. Loading anew helps also where a part of the page could not be fetched. */
export function Failed({ what, error }: { what: string; error: Error }) {
  return (
    <EmptyState
      title={`This ${what} has failed`}
      action={
        <Button variant="contained" onClick={() => window.location.reload()}>
          Load the page again
        </Button>
      }
    >
      {UNTOUCHED} {error.message}
    </EmptyState>
  );
}

interface Props {
  children: ReactNode;
  /** What failed: a view, unless something else is said. */
  what?: string;
  /** When it changes, what failed is tried again. */
  resetKey?: string;
  /** Told instead of shown, where there is no room to show it. */
  onFailed?: (text: string) => void;
}

/** What fails takes only itself down; the frame, the strip and the keys stay. */
export class ErrorBoundary extends Component<Props, { error?: Error }> {
  override state: { error?: Error } = {};

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  private get what() {
    return this.props.what ?? 'view';
  }

  override componentDidCatch(error: Error) {
    this.props.onFailed?.(`This ${this.what} has failed. ${UNTOUCHED} ${error.message}`);
  }

  override componentDidUpdate(previous: Props) {
    if (previous.resetKey !== this.props.resetKey && this.state.error) this.setState({ error: undefined });
  }

  override render() {
    if (!this.state.error) return this.props.children;
    if (this.props.onFailed) return null;
    return <Failed what={this.what} error={this.state.error} />;
  }
}
