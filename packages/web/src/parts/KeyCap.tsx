export function KeyCap({ children }: { children: React.ReactNode }) {
  return <kbd className="key-cap">{children}</kbd>;
}
