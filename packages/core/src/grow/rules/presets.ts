/** Plants to begin with, all of our own making. What one comes near stands beside it (chapters from memory). */
export interface RulesPreset {
  readonly label: string;
  readonly settings: Readonly<Record<string, unknown>>;
}

export const rulesPresets: Readonly<Record<string, RulesPreset>> = {
  // Twigs 137.5° on: the golden angle (Vogel 1979). One trunk with twigs that repeat it: the monopodial trees of Honda (1971).
  stem: {
    label: 'stem and leaves',
    settings: {
      axiom: 'A(0.14, 0.012)',
      rules: [
        '# A stem whose twigs stand round it by turns, each with leaves.',
        'A(l, w) : l > 0.02 -> !(w) F(l) [ &(42) B(l * 0.55, w * 0.55) ] /(137.5) A(l * kept, w * 0.86)',
        'A(l, w) : l <= 0.02 -> ~(0.5)',
        'B(l, w) : l > 0.03 -> !(w) F(l) [ +(50) ~ ] [ -(50) ~ ] $ B(l * 0.7, w * 0.7)',
        'B(l, w) : l <= 0.03 -> ~(0.8)',
      ].join('\n'),
      names: 'kept',
      first: 0.9,
      times: 14,
    },
  },
  // Opposite pinnae that repeat the frond: compound leaves of Prusinkiewicz & Lindenmayer (1990), chapter 5.
  fern: {
    label: 'fern',
    settings: {
      axiom: '&(20) A(0.05, 0.006, 1)',
      rules: [
        '# A frond: pairs of pinnae that get shorter towards the tip.',
        'A(l, w, s) : s > 0.06 -> !(w) F(l) [ +(62) P(l * 0.9 * s, w * 0.5, 1) ] [ -(62) P(l * 0.9 * s, w * 0.5, 1) ] &(curl) A(l, w * 0.94, s * kept)',
        'A(l, w, s) : s <= 0.06 -> ~(0.3)',
        'P(l, w, s) : s > 0.15 -> !(w) F(l) [ +(55) ~(s) ] [ -(55) ~(s) ] &(3) P(l * 0.92, w * 0.9, s * 0.8)',
        'P(l, w, s) : s <= 0.15 -> ~(0.2)',
      ].join('\n'),
      names: 'kept, curl',
      first: 0.9,
      second: 2.5,
      times: 30,
    },
  },
  // Forks of three, 120° round: ternary trees of Prusinkiewicz & Lindenmayer (1990), chapter 2; chances as in their chapter 1.7.
  coral: {
    label: 'coral',
    settings: {
      axiom: '!(0.06) A(0.12, 0.06)',
      rules: [
        '# Every tip forks, three ways or two.',
        'A(l, w) : w > 0.01 ->(0.6) !(w) F(l) [ &(spread + 14 * random(1)) A(l * 0.86, w * 0.78) ] /(120) [ &(spread) A(l * 0.86, w * 0.74) ] /(120) [ &(spread) A(l * 0.8, w * 0.74) ]',
        'A(l, w) : w > 0.01 ->(0.4) !(w) F(l) /(80 * random(2)) [ &(spread * 0.8) A(l * 0.9, w * 0.8) ] [ ^(spread * 0.8) A(l * 0.9, w * 0.8) ]',
      ].join('\n'),
      names: 'spread',
      first: 32,
      times: 6,
    },
  },
  // Near no published plant that we know of; bent by gravity as all rules are (tropism, Prusinkiewicz & Lindenmayer 1990, chapter 2).
  weed: {
    label: 'hanging weed',
    settings: {
      axiom: '[ &(60) A(0.6) ] /(72) [ &(66) A(0.5) ] /(72) [ &(70) A(0.62) ] /(72) [ &(58) A(0.44) ] /(72) [ &(64) A(0.56) ]',
      rules: [
        '# Strands that fall over, with blades along them.',
        'A(s) : s > 0.05 -> !(0.012 * s) F(0.05) [ +(40 * (random(1) - 0.5)) &(30) ~(s) ] /(50) A(s * kept)',
      ].join('\n'),
      names: 'kept',
      first: 0.94,
      times: 26,
      tropism: [0, -1, 0],
      tropismStrength: 0.22,
    },
  },
};
