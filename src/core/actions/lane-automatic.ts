import { OneOf, YesNo } from '../document/rules.ts';
import { AUTOMATIC, laneKey, laneOf, type Automatic } from '../show/show.ts';
import { action } from './action.ts';
import { edit } from './change.ts';
import { LaneRequest } from './request.ts';

class LaneAutomaticRequest extends LaneRequest {
  @OneOf('lane-automatic') kind!: 'lane-automatic';
  @OneOf(...AUTOMATIC) what!: Automatic;
  @YesNo() on!: boolean;
}

const WORDS: Record<Automatic, string> = {
  length: 'Items go off by themselves',
  follows: 'What follows is taken',
};

/** Switches on or off in a lane what happens there by itself. */
export const laneAutomatic = action({
  request: LaneAutomaticRequest,
  role: 'operate',
  decide: ({ show }, request) => {
    const lane = laneOf(show, request);
    const { output, zone, what, on } = request;
    const off = AUTOMATIC.filter((one) => (one === what ? !on : lane.off.includes(one)));
    const change = { edits: [edit('lane', laneKey(lane), lane, { ...lane, off })] };
    return { change, back: { kind: 'lane-automatic', output, zone, what, on: !lane.off.includes(what) } };
  },
  sentence: ({ world }, { output, zone, what, on }) => {
    const name = world.documents.output.get(output)?.zones.find((z) => z.key === zone)?.name ?? zone;
    return `${WORDS[what]} in ${name}: ${on ? 'on' : 'off'}`;
  },
});
