export {
  type FollowersAnswer,
  mostNotices,
  noticeContracts,
  type NoticeAnswer,
  type NoticesAnswer,
} from './schema.ts'
