export const initial = { kind: '', count: 1, rush: false, note: '', complaint: null, sent: 0 };

// nobody carries more than this
const MOST = 50;

function clamp(n) {
  return Math.max(1, Math.min(MOST, n));
}

export default function reducer(state = initial, { type, payload }) {
  switch (type) {
    case 'FIELD': {
      const next = { ...state, [payload.name]: payload.value };
      if (payload.name === 'count') next.count = clamp(Number(payload.value));
      return { ...next, complaint: null };
    }
    case 'STEP':
      return { ...state, count: clamp(state.count + payload) };
    case 'TOGGLE':
      return { ...state, [payload]: !state[payload] };
    case 'COMPLAIN':
      return { ...state, complaint: payload };
    case 'DONE':
      return { ...initial, kind: state.kind, sent: state.sent + 1 };
    default:
      throw new Error(`unknown ${type}`);
  }
}
