//! Words a builder sorts his builds by.

/// Most tags of a build.
pub const MOST_TAGS: usize = 12;
/// Most letters of one.
pub const LONGEST_TAG: usize = 30;

/// Tags as they are kept: trimmed, each once whatever its capitals, in the order given.
///
/// # Errors
/// What was expected, in a sentence.
pub fn tags(given: &[String]) -> Result<Vec<String>, String> {
    let mut kept: Vec<String> = Vec::new();
    for tag in given.iter().map(|t| t.trim()).filter(|t| !t.is_empty()) {
        if tag.chars().count() > LONGEST_TAG || tag.chars().any(|c| c.is_control() || c == ',') {
            return Err(format!(
                "a tag of 1 to {LONGEST_TAG} characters without a comma is expected, for example \"hall\""
            ));
        }
        if !kept.iter().any(|k| k.to_lowercase() == tag.to_lowercase()) {
            kept.push(tag.to_owned());
        }
    }
    if kept.len() > MOST_TAGS {
        return Err(format!("at most {MOST_TAGS} tags are taken, {} are given", kept.len()));
    }
    Ok(kept)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn of(list: &[&str]) -> Result<Vec<String>, String> {
        tags(&list.iter().map(|t| (*t).to_owned()).collect::<Vec<_>>())
    }

    #[test]
    fn are_trimmed_and_kept_once_each() {
        assert_eq!(of(&[" hall ", "", "Hall", "für Jana"]).unwrap(), ["hall", "für Jana"]);
        assert_eq!(of(&[]).unwrap(), Vec::<String>::new());
        // as many letters as are allowed, counted as letters
        assert!(of(&["ž".repeat(LONGEST_TAG).as_str()]).is_ok());
    }

    #[test]
    fn are_refused_with_what_was_expected() {
        for bad in ["x".repeat(LONGEST_TAG + 1), "a,b".into(), "a\nb".into(), "a\0b".into()] {
            assert!(of(&[&bad]).unwrap_err().contains("for example"), "{bad:?}");
        }
        let many: Vec<String> = (0..=MOST_TAGS).map(|i| format!("t{i}")).collect();
        assert!(tags(&many).unwrap_err().contains("at most 12"));
        assert!(tags(&many[1..]).is_ok());
    }
}
