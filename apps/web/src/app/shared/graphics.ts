/** Key under which this browser remembers whether edges are smoothed: `on`, `off`, or nothing to decide by the graphics. */
const remembered = 'filaxis-smooth-edges';

/**
 * Whether edges are smoothed by several samples a pixel. Where no graphics card draws (the renderer calls itself software), several samples
 * double the time of every frame, so there they are left out unless they are asked for.
 */
export function smoothEdges(): boolean {
  const asked = localStorage.getItem(remembered);
  return asked ? asked === 'on' : !drawnBySoftware();
}

/** Key under which this browser remembers that still pictures are not drawn anew with all the light, where software draws: `off`. */
const rememberedStill = 'filaxis-still';

/** Whether a picture that does not move any more is drawn with all the light, where it is not anyway. */
export const refinesStill = (): boolean => localStorage.getItem(rememberedStill) !== 'off';

let software: boolean | null = null;

/** No graphics card draws: what would be handed to one is drawn quicker without that detour. */
export function drawnBySoftware(): boolean {
  return (software ??= findSoftware());
}

function findSoftware(): boolean {
  const context = document.createElement('canvas').getContext('webgl2');
  const facts = context?.getExtension('WEBGL_debug_renderer_info');
  const renderer = context && facts ? String(context.getParameter(facts.UNMASKED_RENDERER_WEBGL)) : '';
  context?.getExtension('WEBGL_lose_context')?.loseContext();
  return /swiftshader|llvmpipe|software/i.test(renderer);
}
