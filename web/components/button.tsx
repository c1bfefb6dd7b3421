import type { ButtonHTMLAttributes } from 'react';

type Kind = 'plain' | 'next' | 'quiet' | 'harm';

const looks: Record<Kind, string> = {
  plain: 'border border-line bg-sheet hover:border-stitch',
  next: 'border border-amber bg-amber text-on-amber font-semibold hover:brightness-105',
  quiet: 'border border-transparent hover:border-line',
  harm: 'border border-line bg-sheet text-rust hover:border-rust',
};

export const buttonLook = (kind: Kind = 'plain'): string =>
  `inline-flex items-center justify-center gap-1.5 rounded-[5px] px-2.5 py-1 text-[13px] whitespace-nowrap disabled:opacity-55 disabled:cursor-not-allowed ${looks[kind]}`;

export function Button({ kind = 'plain', className = '', ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return <button type="button" className={`${buttonLook(kind)} ${className}`} {...rest} />;
}
