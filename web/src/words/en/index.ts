import { audienceWords } from './audience'
import { barWords } from './bar'
import { blockWords } from './blocks'
import { clearanceWords } from './clearance'
import { commentWords } from './comments'
import { contributionWords } from './contributions'
import { correctionWords } from './corrections'
import { couponWords } from './coupons'
import { describingWords } from './describing'
import { embedWords } from './embeds'
import { favouriteWords } from './favourites'
import { frameWords } from './frames'
import { groundWords } from './grounds'
import { intakeWords } from './intake'
import { memberWords } from './members'
import { menuWords } from './menu'
import { narrowingWords } from './narrowing'
import { openingWords } from './opening'
import { orderWords } from './orders'
import { pageWords } from './pages'
import { peopleWords } from './people'
import { photoWords } from './photos'
import { pressWords } from './press'
import { priceWords } from './prices'
import { recordWords } from './records'
import { shopWords } from './shop'
import { soldWords } from './sold'
import { standingWords } from './standing'
import { starterWords } from './starters'
import { tagWords } from './tags'
import { themeWords } from './themes'
import { viewerWords } from './viewers'
import { watermarkWords } from './watermarks'
import { workroomWords } from './workroom'

/** All words of the workroom, English. Another language is another folder of this shape. */
export const en = {
  ...workroomWords,
  ...intakeWords,
  ...photoWords,
  ...tagWords,
  ...narrowingWords,
  ...describingWords,
  ...contributionWords,
  ...correctionWords,
  ...couponWords,
  ...clearanceWords,
  ...commentWords,
  ...openingWords,
  ...orderWords,
  ...peopleWords,
  ...pageWords,
  ...audienceWords,
  ...viewerWords,
  ...watermarkWords,
  ...barWords,
  ...blockWords,
  ...embedWords,
  ...favouriteWords,
  ...frameWords,
  ...groundWords,
  ...memberWords,
  ...menuWords,
  ...pressWords,
  ...priceWords,
  ...recordWords,
  ...shopWords,
  ...soldWords,
  ...standingWords,
  ...starterWords,
  ...themeWords,
}
