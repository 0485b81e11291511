import { Component, type ReactNode } from 'react';
import Button from '@mui/material/Button';
import { EmptyState } from './EmptyState';

/** A view that fails takes only itself down; the frame, the strip and the keys stay. */
export class ErrorBoundary extends Component<{ children: ReactNode; resetKey?: string }, { error?: Error }> {
  override state: { error?: Error } = {};

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override componentDidUpdate(previous: { resetKey?: string }) {
    if (previous.resetKey !== this.props.resetKey && this.state.error) this.setState({ error: undefined });
  }

  override render() {
    if (!this.state.error) return this.props.children;
    return (
      <EmptyState
        title="This view has failed"
        action={
          <Button variant="contained" onClick={() => this.setState({ error: undefined })}>
            Try again
          </Button>
        }
      >
        Your catalogue and your files are untouched. What the page says: {this.state.error.message}
      </EmptyState>
    );
  }
}
