import { Button, type ButtonProps } from '@fernhollow/yarrow'

/** The kit's button, as this application has always called it. */
export const ActionButton = ({ children, ...rest }: ButtonProps) => <Button {...rest}>{children}</Button>
