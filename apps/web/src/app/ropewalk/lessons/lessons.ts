import { adds, draws, isChanged, isSet, settingLabel, sets, tagOf, wires, type Lesson } from './lesson';

const sag = settingLabel('shape.hang', 'value');
const follows = (value: unknown): boolean => !!value && typeof value === 'object' && 'dial' in value;

/** Three short ways in: each ends with something that can be delivered. */
export const lessons: readonly Lesson[] = [
  {
    id: 'rope',
    title: 'A rope between two points',
    steps: [
      adds('lay.line', null, 'Its settings open below. (N does the same as + Node while the graph or the view has the keyboard.)'),
      sets(
        'lay.line',
        ['to'],
        'Put the end of the line where the rope is to be tied.',
        'Type 4 for the x of “To” below, or drag the knob at its end in the 3D view. Fit, at the lower right, shows all of it.',
      ),
      adds('shape.hang', 'lay.line', 'What hangs between two ends is a catenary.'),
      sets(
        'shape.hang',
        ['value'],
        'Say how deep it sags.',
        `Press on the figure of “${sag}” and pull to the side, or type 0.8. Watch the curve while you pull.`,
        (document) => isChanged(document, 'shape.hang', 'value'),
      ),
      adds('skin.rope', 'shape.hang', 'Its strands are laid about the curve, and each strand keeps its length.'),
      adds('mesh.material', 'skin.rope', 'A colour and a name, for the file too.'),
      adds('flow.output', 'mesh.material', 'What comes into an Output is what is delivered.'),
      {
        say: 'Make the sag a dial.',
        hint: `Choose Hang with a click (Fit shows the whole graph), open the menu beside “${sag}” (at the right end of its row) and choose “Make it a dial”.`,
        aims: (document) => ['fx-setting[data-setting="value"] .mode', ...tagOf(document, 'shape.hang')],
        done: (document) => isSet(document, 'shape.hang', 'value', follows),
      },
    ],
    end: 'Press Esc, so that the output is shown again. Turn the dial under “Dials” and see the rope follow. Export, at the top right, writes it as a file.',
  },
  {
    id: 'pipe',
    title: 'A pipe along a drawn path',
    steps: [
      adds('lay.drawn', null, 'It begins empty, ready to be drawn.'),
      draws(4, 'Click four places or more in the 3D view.', 'Each click lays a point on the ground. Backspace takes the last one back, Esc ends drawing.'),
      sets(
        'lay.drawn',
        ['kind'],
        'Make it straight from point to point.',
        'Choose “straight” for the kind of curve: a pipe is straight between its bends.',
        (document) => isSet(document, 'lay.drawn', 'kind', (value) => value === 'straight'),
      ),
      adds('shape.roundCorners', 'lay.drawn', 'Bends get a radius, and straight runs stay straight.'),
      adds('skin.tube', 'shape.roundCorners', 'Rings stand at right angles to the path, in every bend.'),
      sets('skin.tube', ['radius'], 'Give the pipe its radius.', 'Type 0.08, or “80 mm”: units are understood.'),
      sets('skin.tube', ['caps'], 'Close its ends.', 'Choose flat or domed caps.', (document) =>
        isSet(document, 'skin.tube', 'caps', (value) => value !== 'open'),
      ),
      adds('flow.output', 'skin.tube', 'What comes into an Output is what is delivered.'),
    ],
    end: 'The Path strip below the view shows the pipe unrolled. Where a bend is too tight for the radius, it is marked there before it is baked in.',
  },
  {
    id: 'fence',
    title: 'A fence on ground',
    steps: [
      adds('lay.terrain', null, 'Hills from a seed.'),
      sets(
        'lay.terrain',
        ['size', 'height'],
        'Make it a small piece of land.',
        'Type 30 for both fields of the size and 3 for the height. Fit, at the lower right of the view, then shows all of it.',
        (document) =>
          isSet(document, 'lay.terrain', 'size', (value) => Array.isArray(value) && value.every((side) => Number(side) <= 80)) &&
          isSet(document, 'lay.terrain', 'height', (value) => Number(value) <= 8),
      ),
      adds('lay.drawn', null, 'It needs nothing before it: it stands by itself.'),
      draws(3, 'Click three places or more, where the fence is to run.', 'They lie level for now: the next step lays them on the hills. Esc ends drawing.'),
      adds('shape.drape', 'lay.drawn', 'It lays the curve on a body.'),
      wires('lay.terrain', 'shape.drape', 'body', 'Now the line follows the hills.'),
      adds('lay.box', null, 'It becomes the post.'),
      sets('lay.box', ['size'], 'Give the post its size.', 'Type 0.12, 1.6 and 0.12: half of it stands in the ground.'),
      adds('place.copies', 'shape.drape', 'It puts copies of something along the line.'),
      wires('lay.box', 'place.copies', 'objects', 'A post stands on every point of the line.'),
      sets('place.copies', ['spacing'], 'Set the posts apart.', 'Tick the box at “Spacing” and type 2: two metres from post to post.'),
      adds('flow.output', 'place.copies', 'What comes into an Output is what is delivered. Wire the Terrain into it as well, if it is to go along.'),
    ],
    end: 'Change the hills or draw another point: the posts follow. Copies go out as instances where the format has them.',
  },
];
