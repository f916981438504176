//! Photos made fit to be kept: turned upright, scaled, written anew so that nothing but the picture is left.

use image::codecs::jpeg::JpegEncoder;
use image::imageops::FilterType;
use image::{DynamicImage, ExtendedColorType, ImageDecoder, ImageError, ImageReader, Limits, Rgb, RgbImage};
use oak_drum_store::tables::photo::Picture;
use std::io::Cursor;

/// Longest side of what is kept, pixels.
pub const LONGEST: u32 = 2000;
/// Longest side of the small one.
const SMALL: u32 = 400;
/// Widest and highest picture that is read, pixels.
const MOST_SIDE: u32 = 20_000;
/// Most pixels that are read: a little more than the cameras of phones make in one picture.
const MOST_PIXELS: u64 = 120_000_000;
/// Quality of what is written, of 100.
const QUALITY: u8 = 84;

/// Why a file is not kept as a photo.
#[derive(Debug, PartialEq)]
pub enum Unfit {
    /// It is none, or a kind that is not read.
    NoPhoto,
    /// It begins as one and breaks off, or is damaged.
    Damaged(String),
    /// It has more pixels than are read.
    TooManyPixels(u32, u32),
}

impl std::fmt::Display for Unfit {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Unfit::NoPhoto => write!(f, "this is no photo: JPEG, PNG or WebP is expected"),
            Unfit::Damaged(why) => write!(f, "the photo is damaged: {why}"),
            Unfit::TooManyPixels(w, h) => {
                write!(f, "the photo has {w} x {h} pixels; at most {} million are read", MOST_PIXELS / 1_000_000)
            }
        }
    }
}

/// A photo as it is to be kept.
///
/// # Errors
/// [`Unfit`] where the file is no photo, is damaged, or is larger than what is read.
pub fn fit(bytes: &[u8]) -> Result<Picture, Unfit> {
    let damaged = |e: ImageError| Unfit::Damaged(e.to_string());
    let reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().map_err(|_| Unfit::NoPhoto)?;
    reader.format().ok_or(Unfit::NoPhoto)?;
    let mut decoder = match reader.into_decoder() {
        Ok(decoder) => decoder,
        Err(ImageError::Unsupported(_)) => return Err(Unfit::NoPhoto),
        Err(other) => return Err(damaged(other)),
    };
    let (w, h) = decoder.dimensions();
    if w > MOST_SIDE || h > MOST_SIDE || u64::from(w) * u64::from(h) > MOST_PIXELS {
        return Err(Unfit::TooManyPixels(w, h));
    }
    let mut limits = Limits::no_limits();
    limits.max_alloc = Some(MOST_PIXELS * 8);
    decoder.set_limits(limits).map_err(damaged)?;
    let upright = decoder.orientation().map_err(damaged)?;
    let mut image = DynamicImage::from_decoder(decoder).map_err(damaged)?;
    // scaled before it is turned: there is less to turn
    let longest = image.width().max(image.height());
    if longest > 2 * LONGEST {
        // a plain average first: it wants little memory of a very large one
        image = image.thumbnail(2 * LONGEST, 2 * LONGEST);
    }
    if longest > LONGEST {
        image = image.resize(LONGEST, LONGEST, FilterType::CatmullRom);
    }
    image.apply_orientation(upright);
    let plain = on_paper(&image);
    let small = DynamicImage::ImageRgb8(plain.clone()).resize(SMALL, SMALL, FilterType::Triangle).into_rgb8();
    let small = if plain.width().max(plain.height()) <= SMALL { plain.clone() } else { small };
    Ok(Picture { content: written(&plain)?, small: written(&small)?, width: plain.width(), height: plain.height() })
}

/// What comes in a file of this program: as it is, where it is just what this program writes; else made fit like any other.
///
/// # Errors
/// As [`fit`].
pub fn kept(bytes: &[u8]) -> Result<Picture, Unfit> {
    if !is_bare_jpeg(bytes) {
        return fit(bytes);
    }
    let made = fit(bytes)?;
    let (width, height) = dimensions(bytes)?;
    let same = (made.width, made.height) == (width, height);
    Ok(if same { Picture { content: bytes.to_vec(), ..made } } else { made })
}

fn dimensions(bytes: &[u8]) -> Result<(u32, u32), Unfit> {
    let reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().map_err(|_| Unfit::NoPhoto)?;
    reader.into_dimensions().map_err(|e| Unfit::Damaged(e.to_string()))
}

/// Whether bytes are a JPEG of a picture alone: one frame of baseline segments, no application's data but JFIF's own, no comment,
/// nothing after its end.
fn is_bare_jpeg(bytes: &[u8]) -> bool {
    let Some(mut rest) = bytes.strip_prefix(&[0xFF, 0xD8]) else { return false };
    if !bytes.ends_with(&[0xFF, 0xD9]) {
        return false;
    }
    while let [0xFF, marker, high, low, ..] = rest {
        let long = usize::from(u16::from_be_bytes([*high, *low]));
        match marker {
            // the picture's data: to the end, which is the only one
            0xDA => return !rest[..rest.len() - 2].windows(2).any(|w| w == [0xFF, 0xD9]),
            0xE0 if rest[4..].starts_with(b"JFIF\0") && long == 16 => {}
            0xC0 | 0xC4 | 0xDB | 0xDD => {}
            _ => return false,
        }
        match rest.get(2 + long..) {
            Some(after) => rest = after,
            None => return false,
        }
    }
    false
}

/// The picture without transparency, on white.
fn on_paper(image: &DynamicImage) -> RgbImage {
    if !image.color().has_alpha() {
        return image.to_rgb8();
    }
    let with = image.to_rgba8();
    RgbImage::from_fn(with.width(), with.height(), |x, y| {
        let [r, g, b, a] = with.get_pixel(x, y).0.map(u32::from);
        let over = |c: u32| u8::try_from((c * a + 255 * (255 - a)) / 255).unwrap_or(255);
        Rgb([over(r), over(g), over(b)])
    })
}

fn written(picture: &RgbImage) -> Result<Vec<u8>, Unfit> {
    let mut bytes = Vec::new();
    JpegEncoder::new_with_quality(&mut bytes, QUALITY)
        .encode(picture, picture.width(), picture.height(), ExtendedColorType::Rgb8)
        .map_err(|e| Unfit::Damaged(e.to_string()))?;
    Ok(bytes)
}
