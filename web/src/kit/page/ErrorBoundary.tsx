import { Component, type ReactNode } from 'react';
import { Box, Button, Paragraph, Title } from '../primitives';

interface Props {
  /** What is drawn within; another one is tried afresh. */
  readonly at: string;
  readonly children: ReactNode;
}

/** What is left of a view that cannot be drawn: the rest of the page goes on. */
export class ErrorBoundary extends Component<Props, { error: Error | null; at: string }> {
  override state = { error: null as Error | null, at: this.props.at };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  static getDerivedStateFromProps(props: Props, state: { at: string }) {
    return props.at === state.at ? null : { error: null, at: props.at };
  }

  override render() {
    if (!this.state.error) return this.props.children;
    const lost = /dynamically imported module|Importing a module/i.test(this.state.error.message);
    return (
      <Box role="alert" padding={{ base: '4', lg: '6' }}>
        <Title>This view cannot be shown</Title>
        <Paragraph marginBlock="3">
          {lost
            ? 'A part of the page could not be loaded: the server is away, or a newer Ebbrin has taken its place.'
            : `Ebbrin made a mistake here: ${this.state.error.message}`}{' '}
          What you typed is kept.
        </Paragraph>
        <Button look="main" onClick={() => window.location.reload()}>
          Load the page again
        </Button>
      </Box>
    );
  }
}
