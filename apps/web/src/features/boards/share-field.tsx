/** Own, or for all of the programme. */
export const ShareField = ({ isShared, what }: { readonly isShared: boolean; readonly what: string }) => (
  <label className="mb-3 flex min-h-[28px] items-center gap-2">
    <input type="checkbox" name="shared" defaultChecked={isShared} />
    Everybody in the programme finds this {what}
  </label>
);
