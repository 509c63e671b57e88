export type ProbeState = { plot: string; depth: number; wet: boolean };

export const DEPTH = 'probe/depth';

export type ProbeAction =
  | { type: 'text'; payload: { plot: string } }
  | { type: typeof DEPTH; depth: number }
  | { type: 'wet' }
  | { type: 'cleared' };

export const emptyProbe: ProbeState = { plot: '', depth: 20, wet: false };

export const depthChanged = (depth: number): ProbeAction => ({ type: DEPTH, depth });

export function probeReducer(state: ProbeState, action: ProbeAction): ProbeState {
  switch (action.type) {
    case 'text':
      return { ...state, plot: action.payload.plot };
    case DEPTH: {
      const depth = Math.max(5, action.depth);
      return { ...state, depth };
    }
    case 'wet':
      return { ...state, wet: !state.wet };
    case 'cleared':
      return emptyProbe;
  }
}
