import type { ButtonHTMLAttributes, Ref } from 'react';

type Tone = 'plain' | 'strong' | 'quiet';

const TONES: Readonly<Record<Tone, string>> = {
  plain: 'border border-rule bg-sheet hover:bg-flax',
  strong: 'border border-indigo bg-indigo text-linen hover:opacity-90',
  quiet: 'hover:bg-flax-deep',
};

/** How a button of the house looks: 28 px high, one radius. */
export function buttonLook(tone: Tone = 'plain'): string {
  return `h-7 shrink-0 rounded-box px-2.5 whitespace-nowrap disabled:cursor-default disabled:opacity-45 ${TONES[tone]}`;
}

/** A button of the house. */
export function Button({
  tone = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { tone?: Tone; ref?: Ref<HTMLButtonElement> }) {
  return <button type={type} className={`${buttonLook(tone)} ${className}`} {...rest} />;
}
