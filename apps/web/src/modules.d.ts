declare module 'plotly.js-cartesian-dist-min';
declare module 'elkjs/lib/elk.bundled.js' {
  export { default } from 'elkjs';
}
