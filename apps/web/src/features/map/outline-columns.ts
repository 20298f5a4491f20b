/** The columns of the outline, shared by its head and its rows. */
export const COLUMNS = 'grid grid-cols-[86px_minmax(200px,1fr)_112px_132px_44px_70px_88px] items-center gap-x-2';
