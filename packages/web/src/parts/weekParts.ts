/** Words for the parts of a week that core counts openings by. */

const QUARTERS = ['night', 'morning', 'afternoon', 'evening'];

/** "morning" of 1 and of 5. */
export const quarterWords = (part: number): string => QUARTERS[part % 4]!;

/** "work-day mornings", "weekend nights". */
export const partWords = (part: number): string => `${part < 4 ? 'work-day' : 'weekend'} ${quarterWords(part)}s`;
