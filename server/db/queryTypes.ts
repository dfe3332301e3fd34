/* Made from the queries by `./run formats`. */

/** What each query is given by name, and what its rows have. */
export interface Queries {
  readClient: { parameters: 'id'; columns: 'id' | 'name' | 'zone' | 'language' | 'takesPromotional' | 'isActive' | 'isHeldBack' | 'addedAt' | 'revision' }
  contactsOfClient: { parameters: 'clientId'; columns: 'id' | 'firstName' | 'lastName' | 'email' | 'phone' | 'isPrimary' }
  namedDatesOfClient: { parameters: 'clientId'; columns: 'label' | 'monthDay' | 'year' }
  tagsOfClient: { parameters: 'clientId'; columns: 'tag' }
  putClient: { parameters: 'id' | 'name' | 'zone' | 'language' | 'takesPromotional' | 'isActive' | 'isHeldBack' | 'addedAt' | 'revision' | 'foundBy'; columns: never }
  deleteContacts: { parameters: 'clientId'; columns: never }
  insertContact: { parameters: 'id' | 'clientId' | 'position' | 'firstName' | 'lastName' | 'email' | 'phone' | 'isPrimary'; columns: never }
  deleteNamedDates: { parameters: 'clientId'; columns: never }
  insertNamedDate: { parameters: 'clientId' | 'position' | 'label' | 'monthDay' | 'year'; columns: never }
  deleteTags: { parameters: 'clientId'; columns: never }
  insertTag: { parameters: 'clientId' | 'tag'; columns: never }
  listClients: { parameters: 'now' | 'afterId' | 'words' | 'which' | 'limit'; columns: 'id' | 'name' | 'isActive' | 'email' | 'tags' | 'nextStartAt' | 'lastSentAt' }
  anyClient: { parameters: never; columns: 'id' }
  nameOfClient: { parameters: 'id'; columns: 'id' | 'name' }
  readBooking: { parameters: 'id'; columns: 'id' | 'clientId' | 'serviceId' | 'personInChargeId' | 'status' | 'startAt' | 'endAt' | 'partySize' | 'answersJson' | 'cancellationJson' | 'peopleJson' | 'ownJson' | 'broughtInAs' | 'priceCents' | 'madeAt' | 'sessionsJson' | 'statusAtJson' | 'timesSetAt' | 'historyJson' | 'settlingJson' | 'toldJson' | 'revision' }
  bookingsOfClient: { parameters: 'clientId'; columns: 'id' | 'clientId' | 'serviceId' | 'personInChargeId' | 'status' | 'startAt' | 'endAt' | 'partySize' | 'answersJson' | 'cancellationJson' | 'peopleJson' | 'ownJson' | 'broughtInAs' | 'priceCents' | 'madeAt' | 'sessionsJson' | 'statusAtJson' | 'timesSetAt' | 'historyJson' | 'settlingJson' | 'toldJson' | 'revision' }
  bookingsAlive: { parameters: 'clientId' | 'endedSince' | 'subjectIdsJson'; columns: 'id' | 'clientId' | 'serviceId' | 'personInChargeId' | 'status' | 'startAt' | 'endAt' | 'partySize' | 'answersJson' | 'cancellationJson' | 'peopleJson' | 'ownJson' | 'broughtInAs' | 'priceCents' | 'madeAt' | 'sessionsJson' | 'statusAtJson' | 'timesSetAt' | 'historyJson' | 'settlingJson' | 'toldJson' | 'revision' }
  bookingsMadeSince: { parameters: 'clientId' | 'since' | 'endedSince'; columns: 'id' | 'clientId' | 'serviceId' | 'personInChargeId' | 'status' | 'startAt' | 'endAt' | 'partySize' | 'answersJson' | 'cancellationJson' | 'peopleJson' | 'ownJson' | 'broughtInAs' | 'priceCents' | 'madeAt' | 'sessionsJson' | 'statusAtJson' | 'timesSetAt' | 'historyJson' | 'settlingJson' | 'toldJson' | 'revision' }
  putBooking: { parameters: 'id' | 'clientId' | 'serviceId' | 'personInChargeId' | 'status' | 'startAt' | 'endAt' | 'partySize' | 'answersJson' | 'cancellationJson' | 'peopleJson' | 'ownJson' | 'broughtInAs' | 'priceCents' | 'madeAt' | 'sessionsJson' | 'statusAtJson' | 'timesSetAt' | 'historyJson' | 'settlingJson' | 'toldJson' | 'revision'; columns: never }
  noteTold: { parameters: 'toldJson' | 'id'; columns: never }
  seatsTaken: { parameters: 'serviceId' | 'endAt' | 'startAt' | 'exceptBookingId'; columns: 'seats' }
  takenBetween: { parameters: 'from' | 'to' | 'exceptBookingId'; columns: 'serviceId' | 'startAt' | 'endAt' | 'partySize' | 'personInChargeId' }
  clientsByAddress: { parameters: 'email'; columns: 'id' | 'name' }
  clientsByName: { parameters: 'name'; columns: 'id' | 'name' }
  bookingBroughtInAs: { parameters: 'key'; columns: 'id' }
  bookingsStanding: { parameters: 'since' | 'now'; columns: 'broughtInAs' | 'clientName' | 'serviceId' | 'startAt' | 'endAt' | 'partySize' }
  listBookings: { parameters: 'from' | 'to'; columns: 'id' | 'clientId' | 'clientName' | 'serviceId' | 'status' | 'ownStatus' | 'startAt' | 'endAt' | 'partySize' | 'revision' }
  bookingsOfTeam: { parameters: 'from' | 'personId'; columns: 'id' | 'serviceId' | 'status' | 'ownStatus' | 'startAt' | 'endAt' | 'partySize' | 'revision' | 'clientName' | 'email' | 'phone' }
  bookingLinesOfClient: { parameters: 'clientId' | 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'serviceId' | 'status' | 'ownStatus' | 'startAt' | 'endAt' | 'partySize' | 'revision' }
  enquiriesOfClient: { parameters: 'clientId'; columns: 'id' | 'clientId' | 'pipelineId' | 'serviceId' | 'stage' | 'receivedAt' | 'stageAtJson' | 'wishedOn' | 'wishedSetAt' | 'deadlineOn' | 'deadlineSetAt' | 'personInChargeId' | 'eveningJson' | 'ticksJson' | 'what' | 'partySize' | 'budgetCents' | 'source' | 'answersJson' | 'contactIdsJson' | 'lostReason' | 'bookingId' | 'revision' }
  readEnquiry: { parameters: 'id'; columns: 'id' | 'clientId' | 'pipelineId' | 'serviceId' | 'stage' | 'receivedAt' | 'stageAtJson' | 'wishedOn' | 'wishedSetAt' | 'deadlineOn' | 'deadlineSetAt' | 'personInChargeId' | 'eveningJson' | 'ticksJson' | 'what' | 'partySize' | 'budgetCents' | 'source' | 'answersJson' | 'contactIdsJson' | 'lostReason' | 'bookingId' | 'revision' }
  enquiryOfBooking: { parameters: 'bookingId'; columns: 'id' | 'stage' }
  clientsWithEnquiriesIn: { parameters: 'pipelineId' | 'stagesJson'; columns: 'clientId' }
  putEnquiry: { parameters: 'id' | 'clientId' | 'pipelineId' | 'serviceId' | 'stage' | 'receivedAt' | 'stageAtJson' | 'wishedOn' | 'wishedSetAt' | 'deadlineOn' | 'deadlineSetAt' | 'personInChargeId' | 'eveningJson' | 'ticksJson' | 'what' | 'partySize' | 'budgetCents' | 'source' | 'answersJson' | 'contactIdsJson' | 'lostReason' | 'bookingId' | 'revision'; columns: never }
  openEnquiryLines: { parameters: 'pipelineId' | 'stagesJson'; columns: 'id' | 'clientId' | 'clientName' | 'serviceId' | 'stage' | 'what' | 'partySize' | 'budgetCents' | 'source' | 'wishedOn' | 'deadlineOn' | 'personInChargeId' | 'receivedAt' | 'bookingId' | 'revision' | 'stageSince' | 'comingJson' }
  endedEnquiryLines: { parameters: 'pipelineId' | 'stage' | 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'serviceId' | 'stage' | 'what' | 'partySize' | 'budgetCents' | 'source' | 'wishedOn' | 'deadlineOn' | 'personInChargeId' | 'receivedAt' | 'bookingId' | 'revision' | 'stageSince' | 'comingJson' }
  enquiriesDue: { parameters: 'dueBy' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'serviceId' | 'stage' | 'what' | 'partySize' | 'budgetCents' | 'source' | 'wishedOn' | 'deadlineOn' | 'personInChargeId' | 'receivedAt' | 'bookingId' | 'revision' | 'stageSince' | 'comingJson' }
  enquiryLinesOfClient: { parameters: 'clientId'; columns: 'id' | 'clientId' | 'clientName' | 'serviceId' | 'stage' | 'what' | 'partySize' | 'budgetCents' | 'source' | 'wishedOn' | 'deadlineOn' | 'personInChargeId' | 'receivedAt' | 'bookingId' | 'revision' | 'stageSince' | 'comingJson' }
  invoicesOfClient: { parameters: 'clientId'; columns: 'id' | 'clientId' | 'bookingId' | 'issuedAt' | 'dueOn' | 'dueSetAt' | 'paidAt' | 'isFee' | 'amountCents' | 'number' | 'reason' | 'paymentsJson' | 'voidedAt' }
  invoicesAlive: { parameters: 'clientId' | 'bookingIdsJson' | 'subjectIdsJson'; columns: 'id' | 'clientId' | 'bookingId' | 'issuedAt' | 'dueOn' | 'dueSetAt' | 'paidAt' | 'isFee' | 'amountCents' | 'number' | 'reason' | 'paymentsJson' | 'voidedAt' }
  invoicesOfBooking: { parameters: 'bookingId'; columns: 'id' | 'clientId' | 'bookingId' | 'issuedAt' | 'dueOn' | 'dueSetAt' | 'paidAt' | 'isFee' | 'amountCents' | 'number' | 'reason' | 'paymentsJson' | 'voidedAt' }
  readInvoice: { parameters: 'id'; columns: 'id' | 'clientId' | 'bookingId' | 'issuedAt' | 'dueOn' | 'dueSetAt' | 'paidAt' | 'isFee' | 'amountCents' | 'number' | 'reason' | 'paymentsJson' | 'voidedAt' }
  putInvoice: { parameters: 'id' | 'clientId' | 'bookingId' | 'issuedAt' | 'dueOn' | 'dueSetAt' | 'paidAt' | 'isFee' | 'amountCents' | 'number' | 'reason' | 'paymentsJson' | 'voidedAt'; columns: never }
  happeningsOfClient: { parameters: 'clientId'; columns: 'kind' | 'name' | 'at' }
  addHappening: { parameters: 'clientId' | 'kind' | 'name' | 'at'; columns: never }
  removeHappening: { parameters: 'clientId' | 'kind' | 'name' | 'at'; columns: never }
  variationsOfClient: { parameters: 'clientId'; columns: 'variationJson' }
  variationsOfServices: { parameters: never; columns: 'variationJson' }
  variationsOfClientsBySequence: { parameters: 'sequenceId'; columns: 'variationJson' | 'clientName' }
  readVariation: { parameters: 'id'; columns: 'variationJson' }
  putVariation: { parameters: 'id' | 'sequenceId' | 'stepId' | 'serviceId' | 'clientId' | 'variationJson'; columns: never }
  removeVariation: { parameters: 'id'; columns: never }
  removeTask: { parameters: 'id'; columns: never }
  lastSigning: { parameters: 'subjectId' | 'documentId'; columns: 'id' | 'clientId' | 'signingJson' }
  signingsOf: { parameters: 'subjectId'; columns: 'id' | 'clientId' | 'signingJson' }
  putSigning: { parameters: 'id' | 'documentId' | 'clientId' | 'subjectId' | 'fixedAt' | 'signingJson' | 'pdf'; columns: never }
  signedCopy: { parameters: 'id'; columns: 'pdf' }
  moveSignings: { parameters: 'toId' | 'fromId' | 'isWhole' | 'idsJson'; columns: never }
  pressedOn: { parameters: 'subjectId'; columns: 'id' | 'pressedJson' }
  readPressedMove: { parameters: 'id'; columns: 'id' | 'pressedJson' }
  putPressedMove: { parameters: 'id' | 'subjectId' | 'at' | 'pressedJson'; columns: never }
  endPressedMove: { parameters: 'at' | 'id'; columns: never }
  putTask: { parameters: 'id' | 'clientId' | 'subjectKind' | 'subjectId' | 'title' | 'dueOn' | 'personId' | 'madeAt' | 'doneAt'; columns: never }
  taskRevision: { parameters: 'id'; columns: 'revision' }
  tasksOfClient: { parameters: 'clientId'; columns: 'id' | 'clientId' | 'subjectKind' | 'subjectId' | 'title' | 'dueOn' | 'personId' | 'madeAt' | 'doneAt' }
  readTask: { parameters: 'id'; columns: 'id' | 'clientId' | 'subjectKind' | 'subjectId' | 'title' | 'dueOn' | 'personId' | 'madeAt' | 'doneAt' }
  openTasks: { parameters: 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'subjectKind' | 'subjectId' | 'title' | 'dueOn' | 'personId' | 'madeAt' | 'doneAt' | 'revision' | 'clientName' | 'personName' }
  taskLinesOfClient: { parameters: 'clientId'; columns: 'id' | 'clientId' | 'subjectKind' | 'subjectId' | 'title' | 'dueOn' | 'personId' | 'madeAt' | 'doneAt' | 'revision' | 'clientName' | 'personName' }
  allClientIds: { parameters: never; columns: 'id' }
  clientsWithRunningRuns: { parameters: 'sequenceId'; columns: 'id' }
  findClients: { parameters: 'words' | 'most'; columns: 'id' | 'name' | 'email' }
  findBookings: { parameters: 'from' | 'to' | 'words' | 'now' | 'most'; columns: 'id' | 'serviceId' | 'startAt' | 'clientName' }
  findEnquiries: { parameters: 'words' | 'most'; columns: 'id' | 'what' | 'stage' | 'clientName' }
  messagesOfClient: { parameters: 'clientId'; columns: 'source' | 'isPacked' | 'at' }
  clientsToCompare: { parameters: never; columns: 'id' | 'name' | 'email' | 'phone' }
  namedDatesToCompare: { parameters: never; columns: 'clientId' | 'label' | 'monthDay' | 'year' }
  putClientImport: { parameters: 'id' | 'at' | 'personId' | 'fileName'; columns: never }
  insertImportedClient: { parameters: 'importId' | 'clientId' | 'wasJson' | 'revision'; columns: never }
  endClientImport: { parameters: 'at' | 'id'; columns: never }
  readClientImport: { parameters: 'id'; columns: 'id' | 'at' | 'personId' | 'fileName' }
  importedClients: { parameters: 'importId'; columns: 'clientId' | 'wasJson' | 'revision' }
  clientImports: { parameters: never; columns: 'id' | 'at' | 'fileName' | 'takenBackAt' | 'personName' | 'clients' }
  isClientUsed: { parameters: 'id'; columns: 'isUsed' }
  removeClient: { parameters: 'id'; columns: never }
  clientIdsAfter: { parameters: 'afterId' | 'limit'; columns: 'id' }
  bookingsOut: { parameters: never; columns: 'id' | 'client' | 'email' | 'service' | 'status' | 'ownStatus' | 'startAt' | 'endAt' | 'partySize' | 'inCharge' | 'madeAt' }
  invoicesOut: { parameters: never; columns: 'id' | 'number' | 'client' | 'amountCents' | 'reason' | 'issuedAt' | 'dueOn' | 'paidAt' | 'voidedAt' | 'booking' }
  enquiriesOut: { parameters: never; columns: 'id' | 'client' | 'pipeline' | 'stage' | 'what' | 'service' | 'receivedAt' | 'wishedOn' | 'people' | 'budgetCents' | 'source' | 'inCharge' | 'deadlineOn' | 'lostReason' | 'booking' }
  messagesOut: { parameters: never; columns: 'id' | 'client' | 'sequence' | 'kind' | 'letter' | 'address' | 'state' | 'dueAt' | 'sentAt' | 'reason' }
  putClientMerge: { parameters: 'id' | 'at' | 'keptId' | 'goneId' | 'mergeJson'; columns: never }
  endClientMerge: { parameters: 'at' | 'id'; columns: never }
  readClientMerge: { parameters: 'id'; columns: 'mergeJson' }
  mergesOfClient: { parameters: 'keptId'; columns: 'id' | 'mergeJson' }
  presentClient: { parameters: 'id'; columns: 'id' }
  moveBookings: { parameters: 'toId' | 'idsJson'; columns: never }
  moveEnquiries: { parameters: 'toId' | 'idsJson'; columns: never }
  moveInvoices: { parameters: 'toId' | 'idsJson'; columns: never }
  moveTasks: { parameters: 'toId' | 'idsJson'; columns: never }
  moveRuns: { parameters: 'toId' | 'idsJson'; columns: never }
  moveSends: { parameters: 'toId' | 'runIdsJson'; columns: never }
  moveRecipients: { parameters: 'recipientsJson' | 'runIdsJson'; columns: never }
  moveHappenings: { parameters: 'toId' | 'fromId' | 'happeningsJson'; columns: never }
  moveDueMoments: { parameters: 'toId' | 'fromId' | 'isWhole' | 'idsJson' | 'runIdsJson'; columns: never }
  shareRolloutsAhead: { parameters: 'toId' | 'fromId'; columns: never }
  forgetRolloutsOf: { parameters: 'fromId'; columns: never }
  storeIncoming: { parameters: 'id' | 'key' | 'cameAt' | 'wayJson' | 'source'; columns: never }
  incomingToTakeUp: { parameters: never; columns: 'id' | 'cameAt' | 'wayJson' | 'source' }
  hasIncomingToTakeUp: { parameters: never; columns: 'id' }
  putIncoming: { parameters: 'incomingJson' | 'id'; columns: never }
  readIncoming: { parameters: 'id'; columns: 'id' | 'incomingJson' }
  incomingSource: { parameters: 'id'; columns: 'source' }
  incomingAtDesk: { parameters: 'place' | 'afterId' | 'limit'; columns: 'id' | 'incomingJson' }
  incomingOfClient: { parameters: 'clientId' | 'limit'; columns: 'id' | 'incomingJson' }
  undeliveredOfClient: { parameters: 'clientId'; columns: 'id' | 'undeliveredJson' }
  readUndelivered: { parameters: 'address'; columns: 'undeliveredJson' }
  putUndelivered: { parameters: 'address' | 'undeliveredJson'; columns: never }
  forgetUndelivered: { parameters: 'address'; columns: never }
  clientsAtAddress: { parameters: 'email'; columns: 'clientId' }
  openRunsOfClient: { parameters: 'clientId'; columns: 'count' }
  lastSendTo: { parameters: 'email'; columns: 'id' | 'clientId' | 'address' }
  putWrittenAnswer: { parameters: 'id' | 'incomingId' | 'answerJson' | 'source'; columns: never }
  writtenAnswersOf: { parameters: 'incomingId'; columns: 'id' | 'answerJson' }
  writtenAnswersOfClient: { parameters: 'clientId'; columns: 'id' | 'answerJson' }
  writtenAnswersToSend: { parameters: 'state'; columns: 'id' | 'answerJson' }
  readWrittenAnswer: { parameters: 'id'; columns: 'id' | 'answerJson' }
  isIncomingKnown: { parameters: 'key'; columns: 'id' }
  incomingMailboxes: { parameters: never; columns: 'id' | 'mailboxJson' | 'sealedPassword' }
  putIncomingMailbox: { parameters: 'id' | 'mailboxJson' | 'sealedPassword'; columns: never }
  removeIncomingMailbox: { parameters: 'id'; columns: never }
  mailboxPosition: { parameters: 'mailboxId'; columns: 'uidValidity' | 'lastUid' | 'firstAt' | 'oldUntil' | 'oldNoted' | 'notedCount' | 'oldCount' }
  putMailboxPosition: { parameters: 'mailboxId' | 'uidValidity' | 'lastUid' | 'firstAt' | 'oldUntil' | 'oldNoted' | 'notedCount' | 'oldCount'; columns: never }
  forgetMailboxPosition: { parameters: 'mailboxId'; columns: never }
  noteOldMail: { parameters: 'mailboxId' | 'key'; columns: never }
  isOldMail: { parameters: 'mailboxId' | 'key'; columns: 'key' }
  forgetOldMail: { parameters: 'mailboxId'; columns: never }
  allLetters: { parameters: never; columns: 'id' | 'contentJson' | 'isStarter' | 'isArchived' | 'version' | 'changedAt' }
  putLetter: { parameters: 'id' | 'contentJson' | 'isStarter' | 'isArchived' | 'version' | 'changedAt'; columns: never }
  removeLetter: { parameters: 'id'; columns: never }
  sendsWithLetter: { parameters: 'id'; columns: 'count' }
  putLetterVersion: { parameters: 'letterId' | 'version' | 'contentJson' | 'changedAt' | 'personId'; columns: never }
  joinLetterVersions: { parameters: 'letterId' | 'before' | 'personId' | 'since'; columns: never }
  versionsOfLetter: { parameters: 'letterId'; columns: 'version' | 'changedAt' | 'personName' | 'contentJson' }
  allPassages: { parameters: never; columns: 'id' | 'name' | 'paragraphsJson' | 'translationsJson' | 'version' }
  putPassage: { parameters: 'id' | 'name' | 'paragraphsJson' | 'translationsJson' | 'version'; columns: never }
  removePassage: { parameters: 'id'; columns: never }
  putFile: { parameters: 'id' | 'name' | 'type' | 'bytes'; columns: never }
  readFile: { parameters: 'id'; columns: 'id' | 'name' | 'type' | 'bytes' }
  ownWords: { parameters: never; columns: 'word' }
  addOwnWord: { parameters: 'word'; columns: never }
  audienceAfter: { parameters: 'now' | 'after' | 'limit'; columns: 'clientId' | 'clientName' | 'language' | 'takesPromotional' | 'firstName' | 'lastName' | 'email' | 'bookingId' | 'serviceId' | 'startAt' | 'endAt' | 'partySize' | 'personInChargeId' }
  countClients: { parameters: never; columns: 'count' }
  clientNames: { parameters: never; columns: 'name' }
  anyClientOfLanguage: { parameters: 'language'; columns: 'found' }
  readDraft: { parameters: 'letterId'; columns: 'contentJson' | 'revision' | 'changedAt' | 'personName' }
  allDrafts: { parameters: never; columns: 'letterId' | 'contentJson' }
  putDraft: { parameters: 'letterId' | 'contentJson' | 'revision' | 'changedAt' | 'personId'; columns: never }
  removeDraft: { parameters: 'letterId'; columns: never }
  plannedWithLetters: { parameters: 'letterIdsJson' | 'limit'; columns: 'id' }
  countPlannedWithLetters: { parameters: 'letterIdsJson'; columns: 'state' | 'count' }
  beginRollout: { parameters: 'id' | 'sequenceId' | 'rolloutJson' | 'personId' | 'announcedAt' | 'startedAt'; columns: never }
  addRolloutClient: { parameters: 'rolloutId' | 'clientId' | 'announcedJson'; columns: never }
  rolloutUnderWay: { parameters: never; columns: 'id' | 'sequenceId' | 'rolloutJson' | 'personId' | 'announcedAt' }
  aheadOfRollout: { parameters: 'id'; columns: 'count' }
  nextOfRollout: { parameters: 'id' | 'limit'; columns: 'clientId' | 'announcedJson' }
  setRolloutClient: { parameters: 'state' | 'id' | 'clientId'; columns: never }
  endRollout: { parameters: 'at' | 'isStopped' | 'id'; columns: never }
  takeUpRollout: { parameters: 'id'; columns: never }
  giveUpRollouts: { parameters: 'sequenceId'; columns: never }
  forgetDoneOfRollout: { parameters: 'id'; columns: never }
  latestRollout: { parameters: 'sequenceId'; columns: 'id' | 'startedAt' | 'endedAt' | 'isStopped' | 'total' | 'ahead' }
  othersOfRollout: { parameters: 'id'; columns: 'id' | 'name' }
  runsOfClientInSequence: { parameters: 'clientId' | 'sequenceId'; columns: 'id' }
  sendsOfClient: { parameters: 'clientId'; columns: 'id' | 'runId' | 'sequenceId' | 'sequenceVersion' | 'stepId' | 'stepKind' | 'occurrence' | 'anchorValue' | 'recipientId' | 'clientId' | 'subjectKind' | 'subjectId' | 'letterId' | 'purpose' | 'state' | 'wantedAt' | 'notBefore' | 'notAfter' | 'dueAt' | 'traceJson' | 'reasonJson' | 'address' | 'messageId' | 'decisionJson' | 'approvedFactsJson' | 'approvedWordsJson' | 'attempts' | 'sentAt' | 'stateSince' }
  sendsOfRuns: { parameters: 'runIdsJson'; columns: 'id' | 'runId' | 'sequenceId' | 'sequenceVersion' | 'stepId' | 'stepKind' | 'occurrence' | 'anchorValue' | 'recipientId' | 'clientId' | 'subjectKind' | 'subjectId' | 'letterId' | 'purpose' | 'state' | 'wantedAt' | 'notBefore' | 'notAfter' | 'dueAt' | 'traceJson' | 'reasonJson' | 'address' | 'messageId' | 'decisionJson' | 'approvedFactsJson' | 'approvedWordsJson' | 'attempts' | 'sentAt' | 'stateSince' }
  sendsGoneSince: { parameters: 'clientId' | 'since'; columns: 'id' | 'runId' | 'sequenceId' | 'sequenceVersion' | 'stepId' | 'stepKind' | 'occurrence' | 'anchorValue' | 'recipientId' | 'clientId' | 'subjectKind' | 'subjectId' | 'letterId' | 'purpose' | 'state' | 'wantedAt' | 'notBefore' | 'notAfter' | 'dueAt' | 'traceJson' | 'reasonJson' | 'address' | 'messageId' | 'decisionJson' | 'approvedFactsJson' | 'approvedWordsJson' | 'attempts' | 'sentAt' | 'stateSince' }
  readSend: { parameters: 'id'; columns: 'id' | 'runId' | 'sequenceId' | 'sequenceVersion' | 'stepId' | 'stepKind' | 'occurrence' | 'anchorValue' | 'recipientId' | 'clientId' | 'subjectKind' | 'subjectId' | 'letterId' | 'purpose' | 'state' | 'wantedAt' | 'notBefore' | 'notAfter' | 'dueAt' | 'traceJson' | 'reasonJson' | 'address' | 'messageId' | 'decisionJson' | 'approvedFactsJson' | 'approvedWordsJson' | 'attempts' | 'sentAt' | 'stateSince' }
  putSend: { parameters: 'id' | 'runId' | 'sequenceId' | 'sequenceVersion' | 'stepId' | 'stepKind' | 'occurrence' | 'anchorValue' | 'recipientId' | 'clientId' | 'subjectKind' | 'subjectId' | 'letterId' | 'purpose' | 'state' | 'wantedAt' | 'notBefore' | 'notAfter' | 'dueAt' | 'traceJson' | 'reasonJson' | 'address' | 'messageId' | 'decisionJson' | 'approvedFactsJson' | 'approvedWordsJson' | 'attempts' | 'sentAt' | 'stateSince'; columns: never }
  earliestDueSend: { parameters: never; columns: 'at' }
  clientsWithPlanned: { parameters: 'sequenceId'; columns: 'id' }
  clientsWithPlannedLetter: { parameters: 'letterId'; columns: 'id' }
  clientsWithApprovedLetter: { parameters: 'letterId'; columns: 'id' }
  overdueSends: { parameters: 'until' | 'sequenceId'; columns: 'id' }
  sendRevision: { parameters: 'id'; columns: 'revision' }
  claimDue: { parameters: 'token' | 'leaseUntil' | 'now' | 'until' | 'withOther' | 'withMail' | 'through' | 'limit'; columns: 'id' | 'clientId' | 'runId' }
  unroutedDue: { parameters: 'until' | 'known' | 'limit'; columns: 'id' | 'clientId' | 'runId' }
  goThrough: { parameters: 'through' | 'id'; columns: never }
  forgetThrough: { parameters: never; columns: never }
  sentThrough: { parameters: 'accountId' | 'from'; columns: 'count' }
  settleClaim: { parameters: 'state' | 'dueAt' | 'reasonJson' | 'sentAt' | 'stateSince' | 'id' | 'token'; columns: never }
  giveBackClaim: { parameters: 'id' | 'token'; columns: never }
  renewLease: { parameters: 'leaseUntil' | 'token'; columns: never }
  abandonedClaims: { parameters: never; columns: 'id' | 'token' | 'isBegun' }
  beginClaim: { parameters: 'id' | 'token'; columns: never }
  storeMessage: { parameters: 'sendId' | 'subject' | 'source'; columns: never }
  storeAnswer: { parameters: 'answer' | 'sendId'; columns: never }
  readMessage: { parameters: 'sendId'; columns: 'subject' | 'source' | 'isPacked' | 'text' | 'answer' }
  unpackedMessages: { parameters: 'most'; columns: 'sendId' | 'source' }
  packMessage: { parameters: 'source' | 'sendId'; columns: never }
  sourcesBetween: { parameters: 'after' | 'afterId' | 'upTo' | 'most'; columns: 'sendId' | 'sentAt' | 'source' | 'isPacked' }
  countSourcesBetween: { parameters: 'after' | 'upTo'; columns: 'count' }
  letGoOfSource: { parameters: 'text' | 'sendId'; columns: never }
  listByTime: { parameters: 'from' | 'to' | 'statesJson' | 'clientId' | 'serviceId' | 'sequenceId' | 'letterId' | 'limit' | 'offset'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  countByQuarter: { parameters: 'serviceId' | 'from' | 'to' | 'statesJson' | 'clientId' | 'sequenceId' | 'letterId'; columns: 'quarter' | 'count' }
  countAllBetween: { parameters: 'from' | 'to' | 'statesJson'; columns: 'count' }
  spanOfSends: { parameters: never; columns: 'first' | 'last' }
  messagesByQuarter: { parameters: 'from' | 'to' | 'now'; columns: 'quarter' | 'count' | 'waiting' }
  clientsWithMuch: { parameters: 'from' | 'to' | 'now' | 'atLeast' | 'most'; columns: 'clientId' | 'count' }
  momentsOfClient: { parameters: 'clientId' | 'from' | 'to'; columns: 'clientName' | 'momentsJson' }
  countByState: { parameters: 'from' | 'to'; columns: 'state' | 'count' }
  noteLastChance: { parameters: 'lastChanceAt' | 'id'; columns: never }
  listWaiting: { parameters: 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' | 'lastChanceAt' }
  waitingLine: { parameters: 'id'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' | 'lastChanceAt' }
  lineOfSend: { parameters: 'id'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  lastGoneOfClient: { parameters: 'clientId'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  waitingIds: { parameters: never; columns: 'id' | 'clientId' | 'runId' | 'subjectId' }
  troubleIds: { parameters: 'since'; columns: 'id' | 'clientId' | 'runId' | 'subjectId' }
  countNeeds: { parameters: 'today' | 'dueBy'; columns: 'decide' | 'trouble' | 'toDo' }
  alikeIds: { parameters: 'sequenceId' | 'stepId' | 'letterId' | 'id' | 'limit'; columns: 'id' }
  troubleOfClient: { parameters: 'clientId'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  listTroubleInTime: { parameters: 'now' | 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  listTroubleTooLate: { parameters: 'now' | 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  isTooLate: { parameters: 'id' | 'now'; columns: 'id' }
  lastGone: { parameters: never; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  nextAhead: { parameters: 'now'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  listWentOut: { parameters: 'from' | 'to' | 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  listStillToday: { parameters: 'from' | 'to' | 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  listOfClient: { parameters: 'clientId' | 'afterId' | 'limit'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  listOfSubject: { parameters: 'subjectId'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  countOnTheirWay: { parameters: never; columns: 'count' }
  sentSince: { parameters: 'from'; columns: 'count' }
  dueMessages: { parameters: 'until' | 'through'; columns: 'id' | 'dueAt' | 'purpose' }
  putOff: { parameters: 'dueAt' | 'lineJson' | 'id'; columns: never }
  dueByQuarter: { parameters: never; columns: 'quarter' | 'count' }
  sendsToCome: { parameters: never; columns: 'clientName' | 'sequenceName' | 'stepId' | 'occurrence' | 'anchorValue' | 'recipientId' | 'state' | 'dueAt' | 'reason' }
  noteWebCall: { parameters: 'at' | 'sendId' | 'url' | 'body' | 'outcome' | 'answer' | 'tookMs' | 'personId'; columns: never }
  forgetWebCalls: { parameters: 'before'; columns: never }
  lastWebCall: { parameters: 'sendId'; columns: 'url' | 'body' }
  webCalls: { parameters: 'afterId' | 'limit'; columns: 'id' | 'at' | 'sendId' | 'url' | 'outcome' | 'answer' | 'tookMs' | 'personName' | 'state' | 'clientId' | 'clientName' | 'sequenceName' | 'isLast' }
  runsOfClient: { parameters: 'clientId'; columns: 'id' | 'sequenceId' | 'version' | 'clientId' | 'subjectKind' | 'subjectId' | 'state' | 'startedAt' | 'startedOn' | 'stoppedAt' | 'stoppedOn' | 'stoppedReason' | 'branchesJson' | 'timingSetAtJson' | 'passedOverJson' | 'heldJson' | 'isAtRest' }
  aliveSubjects: { parameters: 'clientId'; columns: 'id' }
  runsAlive: { parameters: 'subjectIdsJson' | 'clientId' | 'runIdsJson' | 'sequenceIdsJson'; columns: 'id' | 'sequenceId' | 'version' | 'clientId' | 'subjectKind' | 'subjectId' | 'state' | 'startedAt' | 'startedOn' | 'stoppedAt' | 'stoppedOn' | 'stoppedReason' | 'branchesJson' | 'timingSetAtJson' | 'passedOverJson' | 'heldJson' | 'isAtRest' }
  restRun: { parameters: 'isAtRest' | 'runId'; columns: never }
  putRun: { parameters: 'id' | 'sequenceId' | 'version' | 'clientId' | 'subjectKind' | 'subjectId' | 'state' | 'startedAt' | 'startedOn' | 'stoppedAt' | 'stoppedOn' | 'stoppedReason' | 'branchesJson' | 'timingSetAtJson' | 'passedOverJson' | 'heldJson'; columns: never }
  appendEvent: { parameters: 'id' | 'at' | 'kind' | 'clientId' | 'subjectKind' | 'subjectId' | 'name' | 'sendId' | 'personId' | 'sentence'; columns: never }
  eventsOfClient: { parameters: 'clientId' | 'afterId' | 'limit'; columns: 'id' | 'at' | 'kind' | 'clientId' | 'subjectKind' | 'subjectId' | 'name' | 'sendId' | 'personId' | 'sentence' | 'personName' }
  notesOfClient: { parameters: 'clientId' | 'limit'; columns: 'id' | 'at' | 'kind' | 'clientId' | 'subjectKind' | 'subjectId' | 'name' | 'sendId' | 'personId' | 'sentence' | 'personName' }
  eventsOfSubject: { parameters: 'subjectId'; columns: 'id' | 'at' | 'kind' | 'clientId' | 'subjectKind' | 'subjectId' | 'name' | 'sendId' | 'personId' | 'sentence' | 'personName' }
  eventsOfSend: { parameters: 'sendId'; columns: 'id' | 'at' | 'kind' | 'clientId' | 'subjectKind' | 'subjectId' | 'name' | 'sendId' | 'personId' | 'sentence' | 'personName' }
  decisionsOfStep: { parameters: 'sequenceId' | 'stepId' | 'version' | 'at'; columns: 'kind' | 'name' }
  goneOfStep: { parameters: 'sequenceId' | 'stepId' | 'version' | 'at'; columns: 'count' }
  readDesign: { parameters: 'sequenceId'; columns: 'designJson' | 'revision' | 'changedAt' | 'personId' }
  allDesigns: { parameters: never; columns: 'sequenceId' | 'designJson' }
  putDesign: { parameters: 'sequenceId' | 'designJson' | 'revision' | 'changedAt' | 'personId'; columns: never }
  removeDesign: { parameters: 'sequenceId'; columns: never }
  removeSequence: { parameters: 'id'; columns: never }
  removeSequenceVersions: { parameters: 'id'; columns: never }
  runningBySequence: { parameters: 'standingIdsJson'; columns: 'sequenceId' | 'count' }
  runsOfSequence: { parameters: 'sequenceId'; columns: 'count' }
  sendsBySequence: { parameters: 'since'; columns: 'sequenceId' | 'waiting' | 'planned' | 'sent' }
  sentBySteps: { parameters: 'sequenceId'; columns: 'stepId' | 'sent' | 'skipped' | 'ahead' }
  heldBackBySequence: { parameters: 'sequenceId' | 'until'; columns: 'id' | 'clientId' | 'clientName' | 'recipientId' | 'contactName' | 'colleagueName' | 'bookingId' | 'serviceId' | 'letterId' | 'stepKind' | 'stepId' | 'sequenceVersion' | 'sequenceId' | 'purpose' | 'state' | 'shownAt' | 'notAfter' | 'reasonJson' | 'traceJson' | 'address' | 'stateSince' | 'revision' }
  bookingsToPreview: { parameters: 'from'; columns: 'id' | 'clientName' | 'serviceId' | 'startAt' | 'status' }
  enquiriesToPreview: { parameters: never; columns: 'id' | 'clientName' | 'stage' }
  invoicesToPreview: { parameters: never; columns: 'id' | 'clientName' | 'dueOn' }
  clientsToPreview: { parameters: never; columns: 'id' | 'clientName' }
  clientOfSubject: { parameters: 'id'; columns: 'clientId' }
  namesInUse: { parameters: never; columns: 'kind' | 'name' }
  readMeta: { parameters: 'key'; columns: 'value' }
  forgetMeta: { parameters: 'key'; columns: never }
  writeMeta: { parameters: 'key' | 'value'; columns: never }
  readBusiness: { parameters: never; columns: 'name' | 'zone' | 'postalAddress' | 'phone' | 'senderName' | 'senderAddress' | 'sendingHoursJson' | 'officeHoursJson' | 'holidayCountry' | 'holidaySubdivision' | 'completesAfterHours' | 'settleMinutes' | 'leapDay' | 'promotionalPerDay' | 'promotionalGapHours' | 'moveThresholdMinutes' | 'sharedMailboxJson' | 'replyTo' | 'allowanceJson' | 'revision' | 'isSendingOn' }
  writeBusiness: { parameters: 'name' | 'zone' | 'postalAddress' | 'phone' | 'senderName' | 'senderAddress' | 'sendingHoursJson' | 'officeHoursJson' | 'holidayCountry' | 'holidaySubdivision' | 'completesAfterHours' | 'settleMinutes' | 'leapDay' | 'promotionalPerDay' | 'promotionalGapHours' | 'moveThresholdMinutes' | 'sharedMailboxJson' | 'replyTo' | 'allowanceJson' | 'revision'; columns: never }
  setSendingOn: { parameters: 'isSendingOn'; columns: never }
  setAllowance: { parameters: 'allowanceJson'; columns: never }
  allPeople: { parameters: never; columns: 'id' | 'name' | 'email' | 'role' | 'isActive' | 'hoursJson' | 'replyTo' | 'signatureJson' | 'awayJson' | 'handedToId' | 'revision' }
  insertPerson: { parameters: 'id' | 'name' | 'email' | 'role' | 'isActive' | 'passwordHash' | 'hoursJson' | 'replyTo' | 'signatureJson' | 'awayJson' | 'handedToId' | 'revision'; columns: never }
  putPerson: { parameters: 'id' | 'name' | 'email' | 'role' | 'isActive' | 'hoursJson' | 'replyTo' | 'signatureJson' | 'awayJson' | 'handedToId' | 'revision'; columns: never }
  passwordOf: { parameters: 'email'; columns: 'id' | 'passwordHash' }
  allServices: { parameters: never; columns: 'id' | 'name' | 'place' | 'placeZone' | 'durationMinutes' | 'seats' | 'isActive' | 'offerJson' | 'revision' }
  putService: { parameters: 'id' | 'name' | 'place' | 'placeZone' | 'durationMinutes' | 'seats' | 'isActive' | 'offerJson' | 'revision'; columns: never }
  removeService: { parameters: 'id'; columns: never }
  usesOfService: { parameters: 'id' | 'now'; columns: 'bookings' | 'bookingsAhead' | 'enquiries' }
  calendarFeeds: { parameters: never; columns: 'id' | 'generation' }
  renewCalendarFeed: { parameters: 'id'; columns: never }
  allOwnStatuses: { parameters: never; columns: 'id' | 'ownStatusJson' }
  putOwnStatus: { parameters: 'id' | 'ownStatusJson'; columns: never }
  removeOwnStatus: { parameters: 'id'; columns: never }
  allPipelines: { parameters: never; columns: 'id' | 'pipelineJson' }
  putPipeline: { parameters: 'id' | 'pipelineJson'; columns: never }
  removePipeline: { parameters: 'id'; columns: never }
  allDocuments: { parameters: never; columns: 'id' | 'documentJson' }
  putDocument: { parameters: 'id' | 'documentJson'; columns: never }
  removeDocument: { parameters: 'id'; columns: never }
  sentOfDocument: { parameters: 'documentId'; columns: 'count' }
  allForms: { parameters: never; columns: 'id' | 'formJson' }
  readFormVersion: { parameters: 'formId' | 'revision'; columns: 'id' | 'formJson' }
  putForm: { parameters: 'id' | 'formJson'; columns: never }
  addFormVersion: { parameters: 'formId' | 'revision' | 'formJson'; columns: never }
  removeForm: { parameters: 'id'; columns: never }
  removeFormVersions: { parameters: 'id'; columns: never }
  putFormReceipt: { parameters: 'id' | 'formId' | 'enquiryId' | 'at' | 'receiptJson'; columns: never }
  receiptOfEnquiry: { parameters: 'enquiryId'; columns: 'id' | 'receiptJson' }
  readFormReceipt: { parameters: 'id'; columns: 'id' | 'receiptJson' }
  receiptsOfForm: { parameters: 'formId'; columns: 'count' | 'lastAt' }
  allOnePressMoves: { parameters: never; columns: 'id' | 'moveJson' }
  putOnePressMove: { parameters: 'id' | 'moveJson'; columns: never }
  removeOnePressMove: { parameters: 'id'; columns: never }
  enquiriesByStage: { parameters: 'pipelineId'; columns: 'stage' | 'count' | 'cents' }
  usesOfOwnStatus: { parameters: 'name' | 'now'; columns: 'bookings' | 'bookingsAhead' }
  clientsWithBookingsEndingAfter: { parameters: 'endAfter'; columns: 'id' }
  allSequences: { parameters: never; columns: 'id' | 'name' | 'state' | 'liveSince' | 'currentVersion' }
  putSequence: { parameters: 'id' | 'name' | 'state' | 'liveSince' | 'currentVersion'; columns: never }
  allSequenceVersions: { parameters: never; columns: 'sequenceId' | 'version' | 'startJson' | 'stepsJson' | 'stopsJson' }
  insertSequenceVersion: { parameters: 'sequenceId' | 'version' | 'startJson' | 'stepsJson' | 'stopsJson'; columns: never }
  insertSession: { parameters: 'id' | 'tokenHash' | 'personId' | 'csrfToken' | 'now' | 'expiresAt' | 'agent'; columns: never }
  readSession: { parameters: 'tokenHash'; columns: 'id' | 'personId' | 'csrfToken' | 'expiresAt' | 'seenAt' | 'role' }
  sessionSeen: { parameters: 'now' | 'id'; columns: never }
  sessionsOfPerson: { parameters: 'personId' | 'now'; columns: 'id' | 'startedAt' | 'seenAt' | 'agent' }
  endSession: { parameters: 'id' | 'personId'; columns: never }
  endOtherSessions: { parameters: 'personId' | 'id'; columns: never }
  deleteExpiredSessions: { parameters: 'now'; columns: never }
  setPassword: { parameters: 'passwordHash' | 'personId'; columns: never }
  readCommand: { parameters: 'id'; columns: 'personId' | 'name' | 'bodyHash' | 'answerJson' }
  insertCommand: { parameters: 'id' | 'personId' | 'name' | 'bodyHash' | 'answerJson' | 'at'; columns: never }
  setDueMoment: { parameters: 'kind' | 'key' | 'at' | 'clientId'; columns: never }
  clearDueMoment: { parameters: 'kind' | 'key'; columns: never }
  earliestDueMoment: { parameters: 'until' | 'kinds'; columns: 'kind' | 'key' | 'at' | 'clientId' }
  momentsDue: { parameters: 'kind' | 'until'; columns: 'clientId' }
  noteWishes: { parameters: never; columns: 'id' | 'name' | 'email' | 'role' | 'isActive' | 'hoursJson' | 'replyTo' | 'signatureJson' | 'awayJson' | 'handedToId' | 'revision' | 'notesJson' }
  setNoteWishes: { parameters: 'notesJson' | 'personId'; columns: never }
  readNote: { parameters: 'personId' | 'kind' | 'key'; columns: 'at' | 'answer' }
  insertNote: { parameters: 'personId' | 'kind' | 'key' | 'at'; columns: never }
  answerNote: { parameters: 'answer' | 'personId' | 'kind' | 'key'; columns: never }
  forgetNote: { parameters: 'personId' | 'kind' | 'key'; columns: never }
  nextLastChance: { parameters: never; columns: 'key' | 'at' }
  readSourcesKept: { parameters: never; columns: 'months' }
  setSourcesKept: { parameters: 'months'; columns: never }
  readMailAccount: { parameters: never; columns: 'accountJson' | 'sealedPassword' }
  putMailAccount: { parameters: 'accountJson' | 'sealedPassword'; columns: never }
  furtherAccounts: { parameters: never; columns: 'id' | 'accountJson' | 'sealedPassword' }
  putFurtherAccount: { parameters: 'id' | 'accountJson' | 'sealedPassword'; columns: never }
  removeFurtherAccount: { parameters: 'id'; columns: never }
  removeMailAccount: { parameters: never; columns: never }
  handTasksOn: { parameters: 'toId' | 'fromId'; columns: never }
  insertWayIn: { parameters: 'tokenHash' | 'personId' | 'purpose' | 'email' | 'goodUntil'; columns: never }
  endWaysIn: { parameters: 'personId' | 'purpose'; columns: never }
  deleteOldWaysIn: { parameters: 'before'; columns: never }
  readWayIn: { parameters: 'tokenHash'; columns: 'personId' | 'purpose' | 'goodUntil' | 'usedAt' | 'name' | 'email' }
  useWayIn: { parameters: 'now' | 'tokenHash'; columns: never }
  waysIn: { parameters: 'now'; columns: 'personId' | 'hasPassword' | 'hasSecondFactor' | 'invitedUntil' }
  readSecondFactor: { parameters: 'personId'; columns: 'sealedSecret' | 'confirmedAt' | 'lastPeriod' }
  beginSecondFactor: { parameters: 'personId' | 'sealedSecret'; columns: never }
  confirmSecondFactor: { parameters: 'now' | 'personId'; columns: never }
  takePeriod: { parameters: 'period' | 'personId'; columns: never }
  endSecondFactor: { parameters: 'personId'; columns: never }
  insertRecoveryWord: { parameters: 'wordHash' | 'personId'; columns: never }
  useRecoveryWord: { parameters: 'wordHash' | 'personId'; columns: never }
  recoveryWordsLeft: { parameters: 'personId'; columns: 'count' }
  forgetRecoveryWords: { parameters: 'personId'; columns: never }
  endSessionsOf: { parameters: 'personId'; columns: never }
  insertApiKey: { parameters: 'id' | 'personId' | 'name' | 'scope' | 'tokenHash' | 'hint' | 'now' | 'endsAt'; columns: never }
  readApiKey: { parameters: 'tokenHash'; columns: 'id' | 'personId' | 'name' | 'scope' | 'endsAt' | 'usedAt' | 'usedFrom' | 'role' }
  apiKeyUsed: { parameters: 'now' | 'from' | 'id'; columns: never }
  apiKeys: { parameters: 'personId'; columns: 'id' | 'personId' | 'personName' | 'name' | 'scope' | 'hint' | 'madeAt' | 'endsAt' | 'usedAt' | 'usedFrom' }
  apiKeysOfPerson: { parameters: 'personId'; columns: 'count' }
  endApiKey: { parameters: 'id' | 'personId'; columns: never }
  putMessageLink: { parameters: 'sendId' | 'key' | 'url'; columns: never }
  messageLink: { parameters: 'sendId' | 'key'; columns: 'url' }
  addVisit: { parameters: 'sendId' | 'linkKey' | 'at' | 'seenAt' | 'isHead'; columns: never }
  visitsOfSend: { parameters: 'sendId' | 'limit'; columns: 'id' | 'linkKey' | 'at' | 'seenAt' | 'isHead' | 'isPerson' | 'url' }
  sendsWithVisitsToTell: { parameters: 'until'; columns: 'sendId' }
  tellVisit: { parameters: 'isPerson' | 'id'; columns: never }
  isUnnoticed: { parameters: 'clientId'; columns: 'clientId' }
  putUnnoticed: { parameters: 'clientId'; columns: never }
  forgetUnnoticed: { parameters: 'clientId'; columns: never }
}
