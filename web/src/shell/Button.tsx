import type { ButtonHTMLAttributes } from "react";

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** A line in the accent for what a screen is for; quiet for what stands beside it. */
  look?: "main" | "quiet" | "icon";
  size?: "sm" | "xs";
}

const LOOKS = {
  main: "btn-outline btn-primary",
  quiet: "btn-ghost font-normal",
  icon: "btn-ghost btn-square",
} as const;
const SIZES = { sm: "btn-sm", xs: "btn-xs min-h-6 min-w-6" } as const;

/** Every button that does something; links that look like one are `ButtonLink`'s. */
export function Button({ look = "main", size = "sm", className = "", type = "button", ...rest }: ButtonProps) {
  return <button type={type} className={`btn ${LOOKS[look]} ${SIZES[size]} ${className}`} {...rest} />;
}

/** The class of a link that looks like a main button. */
export const BUTTON_LINK = "btn btn-outline btn-primary btn-sm";
