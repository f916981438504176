//! The typefaces that ship with the program. Where the first has no letter another serves.

use cosmic_text::FontSystem;
use cosmic_text::fontdb::{Database, Source};
use std::sync::{Arc, OnceLock};

/// What everything is set in that it has letters for: Latin, Greek, Cyrillic.
pub const FAMILY: &str = "Noto Sans";

/// The files, as `fonts/README.md` has them.
const FILES: [&[u8]; 25] = [
    include_bytes!("../fonts/NotoSans-Regular.ttf"),
    include_bytes!("../fonts/NotoSans-Bold.ttf"),
    include_bytes!("../fonts/NotoSansArabic-Regular.ttf"),
    include_bytes!("../fonts/NotoSansHebrew-Regular.ttf"),
    include_bytes!("../fonts/NotoSansArmenian-Regular.ttf"),
    include_bytes!("../fonts/NotoSansGeorgian-Regular.ttf"),
    include_bytes!("../fonts/NotoSansDevanagari-Regular.ttf"),
    include_bytes!("../fonts/NotoSansBengali-Regular.ttf"),
    include_bytes!("../fonts/NotoSansGujarati-Regular.ttf"),
    include_bytes!("../fonts/NotoSansGurmukhi-Regular.ttf"),
    include_bytes!("../fonts/NotoSansKannada-Regular.ttf"),
    include_bytes!("../fonts/NotoSansMalayalam-Regular.ttf"),
    include_bytes!("../fonts/NotoSansTamil-Regular.ttf"),
    include_bytes!("../fonts/NotoSansTelugu-Regular.ttf"),
    include_bytes!("../fonts/NotoSansSinhala-Regular.ttf"),
    include_bytes!("../fonts/NotoSansOriya-Regular.ttf"),
    include_bytes!("../fonts/NotoSansThai-Regular.ttf"),
    include_bytes!("../fonts/NotoSansLao-Regular.ttf"),
    include_bytes!("../fonts/NotoSansKhmer-Regular.ttf"),
    include_bytes!("../fonts/NotoSansMyanmar-Regular.ttf"),
    include_bytes!("../fonts/NotoSansEthiopic-Regular.ttf"),
    include_bytes!("../fonts/NotoSansMath-Regular.ttf"),
    include_bytes!("../fonts/NotoSansSymbols2-Regular.ttf"),
    include_bytes!("../fonts/DroidSansFallbackFull.ttf"),
    include_bytes!("../fonts/NanumSquareR.ttf"),
];

/// The typefaces, ready to set words in; none of the machine's own are among them, so that the same is printed everywhere.
pub fn system() -> FontSystem {
    static SHIPPED: OnceLock<Database> = OnceLock::new();
    let shipped = SHIPPED.get_or_init(|| {
        let mut made = Database::new();
        FILES.into_iter().for_each(|file| drop(made.load_font_source(Source::Binary(Arc::new(file)))));
        made
    });
    FontSystem::new_with_locale_and_db("en".into(), shipped.clone())
}
