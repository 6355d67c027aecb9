import { Component, type ReactNode } from 'react';
import { Button } from './Button.tsx';
import css from './Guard.module.css';

/** A part of a page that, should it fail, says so in its own place and leaves all others standing. */
export class Guard extends Component<{ name?: string; children: ReactNode }, { wrong: string | null }> {
  override state: { wrong: string | null } = { wrong: null };

  static getDerivedStateFromError(error: unknown): { wrong: string } {
    return { wrong: error instanceof Error ? error.message : String(error) };
  }

  override render(): ReactNode {
    const { wrong } = this.state;
    if (wrong === null) return this.props.children;
    return (
      <div role="alert" className={css['guard']}>
        <b>{this.props.name ?? 'This part'} could not be shown.</b> All else goes on. ({wrong})
        <Button onClick={() => this.setState({ wrong: null })}>Try again</Button>
      </div>
    );
  }
}
