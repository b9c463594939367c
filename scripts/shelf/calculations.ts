/**
 * Calculations of everyday design, each with where its formulas are from. The formulas are entered from memory of these books and standards;
 * tests/reference/shelf.test.ts holds them against published figures and against other ways to the same result.
 */
import type { Document } from '../../src/core/document';
import { chart, check, input, result, say, sheet, table } from './sheet';

const GPA = { displayUnit: 'GPa' };
const MPA = { displayUnit: 'MPa' };
const steel = input('modulus', '210 GPa', 'pressure', "Young's modulus of the material.", GPA);

export function beamOnSupports(): Document {
  return sheet('calc', 'shelf-beam', 'Beam on two supports', [
    say(
      'about',
      'Loaded in the middle, along its whole length, or both. Small deflections, one material, a section that is the same all along.\n\nFrom: *Roark, Formulas for Stress and Strain*, straight beams; the same in any handbook.',
    ),
    input('span', '1 m', 'length', 'Between the supports.', { displayUnit: 'mm' }),
    input('load', '500 N', 'force', 'In the middle.'),
    input('spread_load', '0 N', 'force', 'All of what lies evenly along it.'),
    input('second_moment', '80000 mm^4', 'second moment of area', 'Of the section, about the axis that it bends about.'),
    input('outer', '20 mm', 'length', 'From that axis to the outermost fibre.'),
    steel,
    input('allowed', '160 MPa', 'pressure', 'Stress that is allowed.', MPA),
    result('moment', 'load * span / 4 + spread_load * span / 8', 'torque', 'Greatest, in the middle.', { displayUnit: 'N*m' }),
    result('stress', 'moment * outer / second_moment', 'pressure', 'Greatest, at the outermost fibre.', MPA),
    result(
      'deflection',
      'load * span^3 / (48 * modulus * second_moment) + 5 * spread_load * span^3 / (384 * modulus * second_moment)',
      'length',
      'In the middle.',
    ),
    result('reserve', 'allowed / stress', 'number', 'How many times the stress is allowed.', { decimals: 2 }),
    check('holds', 'stress <= allowed', 'The stress is greater than what is allowed.', 'error'),
    chart('sag', 'Deflection over the span', 'deflection', ['span', '200 mm', '2 m']),
  ]);
}

export function cantilever(): Document {
  return sheet('calc', 'shelf-cantilever', 'Cantilever', [
    say(
      'about',
      'Held at one end, loaded at the other, along its whole length, or both. Small deflections.\n\nFrom: *Roark, Formulas for Stress and Strain*, straight beams; the same in any handbook.',
    ),
    input('length', '300 mm', 'length', 'From where it is held to its end.'),
    input('load', '200 N', 'force', 'At the end.'),
    input('spread_load', '0 N', 'force', 'All of what lies evenly along it.'),
    input('second_moment', '80000 mm^4', 'second moment of area', 'Of the section, about the axis that it bends about.'),
    input('outer', '20 mm', 'length', 'From that axis to the outermost fibre.'),
    steel,
    input('allowed', '160 MPa', 'pressure', 'Stress that is allowed.', MPA),
    result('moment', 'load * length + spread_load * length / 2', 'torque', 'Greatest, where it is held.', { displayUnit: 'N*m' }),
    result('stress', 'moment * outer / second_moment', 'pressure', 'Greatest, at the outermost fibre.', MPA),
    result('deflection', 'load * length^3 / (3 * modulus * second_moment) + spread_load * length^3 / (8 * modulus * second_moment)', 'length', 'At the end.'),
    result('reserve', 'allowed / stress', 'number', 'How many times the stress is allowed.', { decimals: 2 }),
    check('holds', 'stress <= allowed', 'The stress is greater than what is allowed.', 'error'),
    chart('sag', 'Deflection over the length', 'deflection', ['length', '100 mm', '600 mm']),
  ]);
}

export function shaftInTorsion(): Document {
  return sheet('calc', 'shelf-torsion', 'Shaft in torsion', [
    say(
      'about',
      'A round shaft, solid (bore 0) or hollow; turned alone, far from notches.\n\nFrom: *Roark, Formulas for Stress and Strain*, torsion of round bars.',
    ),
    input('torque', '50 N*m', 'torque', 'That it carries.', { displayUnit: 'N*m' }),
    input('outer_dia', '25 mm', 'length', 'Outside.'),
    input('bore', '0 mm', 'length', 'Inside; 0 for a solid one.', { least: { text: '0 mm' } }),
    input('length', '500 mm', 'length', 'Between the ends that turn against one another.'),
    input('shear_modulus', '80 GPa', 'pressure', 'Of the material.', GPA),
    input('allowed', '40 MPa', 'pressure', 'Shear stress that is allowed.', MPA),
    result('polar_moment', 'pi / 32 * (outer_dia^4 - bore^4)', 'second moment of area', 'Of the section.'),
    result('stress', 'torque * outer_dia / (2 * polar_moment)', 'pressure', 'Shear, at the surface.', MPA),
    result('twist', 'torque * length / (shear_modulus * polar_moment) * 1 rad', 'angle', 'Of one end against the other.', { displayUnit: 'deg' }),
    result('least_dia', 'cbrt(16 * torque / (pi * allowed))', 'length', 'Of a solid shaft that just holds.'),
    check('hollow', 'bore < outer_dia', 'The bore is as wide as the shaft.', 'error'),
    check('holds', 'stress <= allowed', 'The stress is greater than what is allowed.', 'error'),
    chart('stiff', 'Twist over the diameter', 'twist', ['outer_dia', '15 mm', '50 mm']),
  ]);
}

export function keyInShaft(): Document {
  return sheet('calc', 'shelf-key', 'Key in a shaft', [
    say(
      'about',
      'A parallel key with round ends: what it presses on the hub, and its shear. Sizes of keys stand in the master *Keys and keyways*.\n\nFrom: *DIN 6892*, simple method, without its factors; the same in any handbook of machine elements.',
    ),
    input('torque', '100 N*m', 'torque', 'That it carries.', { displayUnit: 'N*m' }),
    input('shaft_dia', '30 mm', 'length', 'Of the shaft.'),
    input('key_width', '8 mm', 'length', 'Of the key.'),
    input('key_height', '7 mm', 'length', 'Of the key.'),
    input('shaft_groove', '4 mm', 'length', 'Depth of the groove in the shaft.'),
    input('key_length', '40 mm', 'length', 'From end to end.'),
    input('allowed', '100 MPa', 'pressure', 'Pressure that the weaker of hub and key bears.', MPA),
    result('edge_force', '2 * torque / shaft_dia', 'force', 'At the surface of the shaft.'),
    result('bearing_length', 'key_length - key_width', 'length', 'What is straight of it.'),
    result('pressure', 'edge_force / ((key_height - shaft_groove) * bearing_length)', 'pressure', 'On the hub.', MPA),
    result('shear', 'edge_force / (key_width * bearing_length)', 'pressure', 'In the key.', MPA),
    result('least_length', 'key_width + edge_force / ((key_height - shaft_groove) * allowed)', 'length', 'Of a key that just holds.'),
    check('straight', 'key_length > key_width', 'Nothing of the key is straight.', 'error'),
    check('holds', 'pressure <= allowed', 'The pressure is greater than what is allowed.', 'error'),
  ]);
}

/** Proof stress of property classes in MPa, over 16 mm for 8.8: ISO 898-1. */
const CLASSES: readonly (readonly [string, number])[] = [
  ['4.6', 225],
  ['5.6', 280],
  ['8.8', 580],
  ['10.9', 830],
  ['12.9', 970],
];

export function boltPreload(): Document {
  return sheet('calc', 'shelf-bolt', 'Preload of a bolt', [
    say(
      'about',
      'What a tightened bolt holds, and how hard it is to be tightened. The torque depends on friction more than on anything else: of what is worked out, a quarter up or down is common.\n\nFrom: stress area and proof stress *ISO 898-1*; torque *VDI 2230*, for threads of 60°; preload at three quarters of the proof load, *Shigley, Mechanical Engineering Design*.',
    ),
    table(
      'classes',
      { property_class: 'text', proof: 'pressure' },
      CLASSES.map(([name, proof]) => [`"${name}"`, `${proof} MPa`]),
    ),
    input('nominal', '8 mm', 'length', 'Diameter of the thread.'),
    input('pitch', '1.25 mm', 'length', 'Of the thread.'),
    input('property_class', '"8.8"', 'text', 'ISO 898-1; its proof stress up to 16 mm.', { choices: CLASSES.map(([name]) => `"${name}"`) }),
    input('share', '0.75', 'number', 'Of the proof load that it is tightened to.'),
    input('thread_friction', '0.12', 'number', 'In the thread; 0.08 oiled, 0.12 as it comes, 0.18 dry.'),
    input('head_friction', '0.12', 'number', 'Under the head.'),
    input('bearing_dia', '11 mm', 'length', 'Middle of the ring on which the head turns.'),
    input('load', '5 kN', 'force', 'That pulls the joint apart.'),
    input('stiffness_share', '0.25', 'number', 'Of the load that the bolt takes; the rest comes off what is clamped.'),
    result('pitch_diameter', 'nominal - 3 / 8 * sqrt(3) * pitch', 'length', 'ISO 724.'),
    result('core_diameter', 'nominal - 17 / 24 * sqrt(3) * pitch', 'length', 'ISO 724.'),
    result('stress_area', 'pi / 16 * (pitch_diameter + core_diameter)^2', 'area', 'ISO 898-1.'),
    result('proof_load', 'lookup(classes, property_class, "proof") * stress_area', 'force', 'ISO 898-1.', { displayUnit: 'kN' }),
    result('preload', 'share * proof_load', 'force', 'That it is tightened to.', { displayUnit: 'kN' }),
    result(
      'tightening_torque',
      'preload * (pitch / (2 * pi) + pitch_diameter / 2 * thread_friction / cos(30 deg) + bearing_dia / 2 * head_friction)',
      'torque',
      'At the wrench.',
      { displayUnit: 'N*m' },
    ),
    result('bolt_load', 'preload + stiffness_share * load', 'force', 'In the bolt, under the load.', { displayUnit: 'kN' }),
    result('clamping', 'preload - (1 - stiffness_share) * load', 'force', 'That is left between the parts, under the load.', { displayUnit: 'kN' }),
    check('closed', 'clamping > 0 N', 'The joint opens under the load.', 'error'),
    check('proof', 'bolt_load <= proof_load', 'The bolt carries more than its proof load.', 'error'),
  ]);
}

export function compressionSpring(): Document {
  return sheet('calc', 'shelf-spring', 'Compression spring', [
    say(
      'about',
      'Round wire, wound cold, loaded at rest.\n\nFrom: *Shigley, Mechanical Engineering Design*, helical springs, with the factor of Bergsträsser; rate as in *EN 13906-1*.',
    ),
    input('wire', '2 mm', 'length', 'Diameter of the wire.'),
    input('coil_dia', '16 mm', 'length', 'Mean, from the middle of the wire to the middle.'),
    input('active_coils', '8', 'number', 'That move.'),
    input('end_coils', '2', 'number', 'That do not.'),
    input('shear_modulus', '79.3 GPa', 'pressure', 'Of the wire.', GPA),
    input('force', '100 N', 'force', 'Greatest.'),
    input('allowed', '700 MPa', 'pressure', 'Shear stress that is allowed.', MPA),
    result('index', 'coil_dia / wire', 'number', 'Of the spring: 4 to 12 is made easily.', { decimals: 2 }),
    result('rate', 'shear_modulus * wire^4 / (8 * coil_dia^3 * active_coils)', 'any', 'Force for each millimetre.', { displayUnit: 'N/mm' }),
    result('travel', 'force / rate', 'length', 'Under the force.'),
    result('curvature_factor', '(4 * index + 2) / (4 * index - 3)', 'number', 'Bergsträsser.'),
    result('stress', 'curvature_factor * 8 * force * coil_dia / (pi * wire^3)', 'pressure', 'Shear, at the inside of the coil.', MPA),
    result('solid_length', '(active_coils + end_coils) * wire', 'length', 'With all coils on one another.'),
    result('least_free_length', 'solid_length + 1.15 * travel', 'length', 'With 15 % of the travel left before it is solid.'),
    result('outside', 'coil_dia + wire', 'length', 'The bore has to be wider.'),
    check('can-be-wound', 'index >= 4 and index <= 20', 'A spring of this index is hard to wind.'),
    check('holds', 'stress <= allowed', 'The stress is greater than what is allowed.', 'error'),
    chart('softness', 'Travel over the wire', 'travel', ['wire', '1.5 mm', '3 mm']),
  ]);
}

export function beltLength(): Document {
  return sheet('calc', 'shelf-belt', 'Length of a belt', [
    say(
      'about',
      'An open belt over two pulleys, flat or V: take pitch diameters. Exact, but for its stretch.\n\nFrom: geometry; the same in *Shigley, Mechanical Engineering Design*, flat belts.',
    ),
    input('small_dia', '80 mm', 'length', 'Of the smaller pulley.'),
    input('large_dia', '200 mm', 'length', 'Of the larger one.'),
    input('centres', '400 mm', 'length', 'From axis to axis.'),
    result('slant', 'asin((large_dia - small_dia) / (2 * centres))', 'angle', 'Of the straight runs.'),
    result(
      'belt_length',
      '2 * centres * cos(slant) + pi / 2 * (large_dia + small_dia) + (large_dia - small_dia) * slant / 1 rad',
      'length',
      'All the way round.',
    ),
    result('small_wrap', '180 deg - 2 * slant', 'angle', 'Of the belt on the smaller pulley.'),
    result('ratio', 'large_dia / small_dia', 'number', 'Turns of the smaller pulley for one of the larger.', { decimals: 3 }),
    check('apart', 'centres > (large_dia + small_dia) / 2', 'The pulleys touch.', 'error'),
    check('wrap', 'small_wrap >= 120 deg', 'The belt lies on less than 120° of the smaller pulley: it slips easily.'),
    chart('long', 'Length over the centres', 'belt_length', ['centres', '200 mm', '800 mm']),
  ]);
}

export function gearPair(): Document {
  return sheet('calc', 'shelf-gears', 'Gear pair', [
    say(
      'about',
      'Two straight gears of full depth, without profile shift: what is needed to draw them, and whether they run smoothly.\n\nFrom: *ISO 21771* and the basic rack of *ISO 53*: tooth tip 1, foot 1.25 modules.',
    ),
    input('module', '2 mm', 'length', 'ISO 54: 1, 1.25, 1.5, 2, 2.5, 3, 4, 5, …', { least: { text: '0.05 mm' } }),
    input('pinion_teeth', '20', 'count', 'Of the smaller gear.', { least: { text: '5' } }),
    input('gear_teeth', '40', 'count', 'Of the larger one.', { least: { text: '5' } }),
    input('pressure_angle', '20 deg', 'angle', 'ISO 53.'),
    result('pinion_dia', 'module * pinion_teeth', 'length', 'Pitch diameter.'),
    result('gear_dia', 'module * gear_teeth', 'length', 'Pitch diameter.'),
    result('centres', '(pinion_dia + gear_dia) / 2', 'length', 'From axis to axis.'),
    result('pinion_tip', 'pinion_dia + 2 * module', 'length', 'Diameter over the tips.'),
    result('gear_tip', 'gear_dia + 2 * module', 'length', 'Diameter over the tips.'),
    result('pinion_root', 'pinion_dia - 2.5 * module', 'length', 'Diameter at the feet.'),
    result('gear_root', 'gear_dia - 2.5 * module', 'length', 'Diameter at the feet.'),
    result('pinion_base', 'pinion_dia * cos(pressure_angle)', 'length', 'Diameter of the base circle.'),
    result('gear_base', 'gear_dia * cos(pressure_angle)', 'length', 'Diameter of the base circle.'),
    result(
      'path_of_contact',
      'sqrt(pinion_tip^2 - pinion_base^2) / 2 + sqrt(gear_tip^2 - gear_base^2) / 2 - centres * sin(pressure_angle)',
      'length',
      'Along the line of action.',
    ),
    result('contact_ratio', 'path_of_contact / (pi * module * cos(pressure_angle))', 'number', 'Teeth that carry, on the average.', { decimals: 3 }),
    result('ratio', 'gear_teeth / pinion_teeth', 'number', 'Turns of the pinion for one of the gear.', { decimals: 3 }),
    result('least_teeth', '2 / sin(pressure_angle)^2', 'number', 'Below it the foot of the tooth is cut away.', { decimals: 1 }),
    check('smooth', 'contact_ratio >= 1.2', 'Fewer than 1.2 teeth carry on the average: the pair runs roughly.'),
    check('undercut', 'pinion_teeth >= floor(least_teeth)', 'The feet of the pinion are cut away: give it more teeth, or shift its profile.'),
  ]);
}

export function pressFit(): Document {
  return sheet('calc', 'shelf-press-fit', 'Press fit', [
    say(
      'about',
      'A hub pressed on a shaft, both thick rings that stay elastic. The interference is what is left once the surfaces are smoothed.\n\nFrom: *Lamé*; in *Shigley, Mechanical Engineering Design*, press and shrink fits.',
    ),
    input('joint_dia', '40 mm', 'length', 'Where they meet.'),
    input('hub_outer', '80 mm', 'length', 'Outside of the hub.'),
    input('bore', '0 mm', 'length', 'In the shaft; 0 for a solid one.', { least: { text: '0 mm' } }),
    input('length', '40 mm', 'length', 'Of the joint.'),
    input('interference', '0.04 mm', 'length', 'By how much the shaft is wider than the hub.', { decimals: 4 }),
    input('hub_modulus', '210 GPa', 'pressure', 'Of the hub.', GPA),
    input('shaft_modulus', '210 GPa', 'pressure', 'Of the shaft.', GPA),
    input('hub_poisson', '0.3', 'number', 'Of the hub.'),
    input('shaft_poisson', '0.3', 'number', 'Of the shaft.'),
    input('friction', '0.12', 'number', 'Between them.'),
    input('hub_yield', '350 MPa', 'pressure', 'Of the hub.', MPA),
    result('hub_give', '((hub_outer^2 + joint_dia^2) / (hub_outer^2 - joint_dia^2) + hub_poisson) / hub_modulus', 'any', 'Of the hub, for each pressure.', {
      displayUnit: 'mm^2/N',
    }),
    result('shaft_give', '((joint_dia^2 + bore^2) / (joint_dia^2 - bore^2) - shaft_poisson) / shaft_modulus', 'any', 'Of the shaft, for each pressure.', {
      displayUnit: 'mm^2/N',
    }),
    result('pressure', 'interference / (joint_dia * (hub_give + shaft_give))', 'pressure', 'Between them.', MPA),
    result('axial_force', 'friction * pressure * pi * joint_dia * length', 'force', 'That slides them.', { displayUnit: 'kN' }),
    result('holding_torque', 'axial_force * joint_dia / 2', 'torque', 'That turns one in the other.', { displayUnit: 'N*m' }),
    result('hub_stress', 'pressure * (hub_outer^2 + joint_dia^2) / (hub_outer^2 - joint_dia^2)', 'pressure', 'Round the bore of the hub.', MPA),
    check('hub', 'hub_outer > joint_dia', 'The hub has no wall.', 'error'),
    check('hollow', 'bore < joint_dia', 'The shaft has no wall.', 'error'),
    check('elastic', 'pressure + hub_stress <= hub_yield', 'The hub yields: the difference of its stresses is greater than its yield strength.', 'error'),
    chart('hold', 'Torque over the interference', 'holding_torque', ['interference', '0.01 mm', '0.08 mm']),
  ]);
}

export function buckling(): Document {
  return sheet('calc', 'shelf-buckling', 'Buckling of a strut', [
    say(
      'about',
      'A straight strut, loaded along its axis: slender ones by Euler, stocky ones by Johnson; both meet at half the yield strength.\n\n- Both ends free to turn: end factor 1\n- One held fast, one free to turn: 0.7\n- Both held fast: 0.5\n- One held fast, one free altogether: 2\n\nFrom: *Shigley, Mechanical Engineering Design*, columns.',
    ),
    input('length', '800 mm', 'length', 'Of the strut.'),
    input('end_factor', '1', 'number', 'How its ends are held.', { choices: ['0.5', '0.7', '1', '2'] }),
    input('area', '200 mm^2', 'area', 'Of the section.'),
    input('second_moment', '3000 mm^4', 'second moment of area', 'The least of the section.'),
    steel,
    input('yield_strength', '235 MPa', 'pressure', 'Of the material.', MPA),
    input('load', '2 kN', 'force', 'That it carries.', { displayUnit: 'kN' }),
    result('slenderness', 'end_factor * length / sqrt(second_moment / area)', 'number', 'Free length over radius of gyration.', { decimals: 1 }),
    result('limit', 'sqrt(2 * pi^2 * modulus / yield_strength)', 'number', 'Slenderness at which both formulas meet.', { decimals: 1 }),
    result('euler_load', 'pi^2 * modulus * second_moment / (end_factor * length)^2', 'force', 'For slender ones.', { displayUnit: 'kN' }),
    result('johnson_load', 'max(0 N, area * yield_strength * (1 - yield_strength * slenderness^2 / (4 * pi^2 * modulus)))', 'force', 'For stocky ones.', {
      displayUnit: 'kN',
    }),
    result('critical_load', 'if(slenderness >= limit, euler_load, johnson_load)', 'force', 'At which it gives way.', { displayUnit: 'kN' }),
    result('reserve', 'critical_load / load', 'number', 'How many times the load it bears.', { decimals: 2 }),
    check('holds', 'reserve >= 2', 'It bears less than twice its load.'),
    chart('short', 'Critical load over the length', 'critical_load', ['length', '200 mm', '1.5 m']),
  ]);
}

export function thermalExpansion(): Document {
  return sheet('calc', 'shelf-expansion', 'Thermal expansion', [
    say(
      'about',
      'By how much something grows as it gets warmer, and what happens in it if it cannot. Expansion of materials stands in the master *Materials*.\n\nFrom: any handbook of physics.',
    ),
    input('length', '1 m', 'length', 'As it is cold.', { displayUnit: 'mm' }),
    input('expansion', '12', 'number', 'Millionths of the length for each kelvin: 12 steel, 23.6 aluminium.'),
    input('warming', '40 K', 'temperature difference', 'By how much it gets warmer.'),
    steel,
    result('growth', 'length * expansion * warming / 1000000 K', 'length', 'If nothing holds it.'),
    result('warm_length', 'length + growth', 'length', 'If nothing holds it.'),
    result('held_stress', 'modulus * expansion * warming / 1000000 K', 'pressure', 'If it is held at both ends: pressure.', MPA),
    chart('grows', 'Growth over the warming', 'growth', ['warming', '0 K', '100 K']),
  ]);
}
