import { isClock } from '../../core/board/values.ts';
import { clockAt, clockText, clockUnchangedFor } from '../../core/clock/clock.ts';
import type { LayerProps } from '../../core/layers/kinds.ts';
import { LayerView } from './base.ts';
import { numberIn } from './content.ts';
import { TextBlock } from './text-block.ts';

export class ClockView extends LayerView<'clock'> {
  private readonly block = new TextBlock(this.el, this.body);

  protected override get ticks(): boolean {
    return true;
  }

  protected override draw(props: LayerProps, now: number): void {
    const anew = this.block.write(props, this.props);
    const before = this.block.text;
    this.digits(now);
    if (anew && this.block.text === before) this.block.fitted();
  }

  override refit(): void {
    this.block.refit();
  }

  override unchangedFor(now: number): number {
    const { clock = null } = this.props;
    return Math.min(super.unchangedFor(now), isClock(clock) ? clockUnchangedFor(clock, now) : Infinity);
  }

  override tick(now: number): void {
    this.digits(now);
    super.tick(now);
  }

  private digits(now: number): void {
    const { clock = null, form, tenthsBelow } = this.props;
    const written = { form: form as 'm:ss' | 's', tenthsBelow: numberIn(tenthsBelow) };
    const digits = isClock(clock) ? clockText(clockAt(clock, now), written) : '';
    if (digits !== this.block.text) this.block.set([digits]);
  }
}
